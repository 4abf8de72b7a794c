/**
 * Looks of the site's own, for parts: a ground of its palette, an edge, and room around. Colours of the palette stand out
 * from each other as `site/look.ts` sees to, so a look can be chosen without being looked after.
 */
import { z } from 'zod'

export const grounds = {
  paper: 'no ground',
  tint: 'a light ground',
  band: 'the band’s ground',
  main: 'the site’s colour',
}
export const edges = { none: 'no edge', line: 'a thin edge', frame: 'a strong edge', bar: 'a bar beside it' }
export const rooms = { tight: 'little room', usual: 'some room', wide: 'much room' }
const keysOf = <K extends string>(of: Record<K, string>) => Object.keys(of) as [K, ...K[]]

export const ownLook = z.strictObject({
  id: z
    .string()
    .regex(/^[a-z0-9][a-z0-9-]*$/, 'Small letters, digits and dashes.')
    .max(40),
  name: z.string().trim().min(1, 'A look has a name.').max(60),
  ground: z.enum(keysOf(grounds)).default('tint'),
  edge: z.enum(keysOf(edges)).default('none'),
  room: z.enum(keysOf(rooms)).default('usual'),
})
export type OwnLook = z.infer<typeof ownLook>
export const mostOwnLooks = 12

/** How a part names one. */
export const ownLookName = (id: string) => `own-${id}`
export const isOwnLookName = (name: string) => /^own-[a-z0-9][a-z0-9-]{0,39}$/.test(name)

const background: Record<OwnLook['ground'], string> = {
  paper: '',
  tint: 'background:var(--tint);',
  band: 'background:var(--band);',
  // Whatever stands on the site's colour is written in what can be read on it, links and small words included.
  main: 'background:var(--madder);--ink:var(--on-madder);--soft:var(--on-madder);--line:var(--on-madder);--edge:var(--band);color:var(--on-madder);',
}
const border: Record<OwnLook['edge'], string> = {
  none: '',
  line: 'border:1px solid var(--line);',
  frame: 'border:3px solid var(--edge,var(--madder));',
  bar: 'border-left:5px solid var(--edge,var(--madder));',
}
const padding: Record<OwnLook['room'], string> = {
  tight: 'padding:8px 12px;',
  usual: 'padding:16px 22px;',
  wide: 'padding:32px 40px;',
}

/** Their rules as a sheet; empty where there is none. */
export const ownLooksSheet = (looks: readonly OwnLook[]): string =>
  looks
    .map(({ id, ground, edge, room }) => {
      const rule = `.accent.${ownLookName(id)}`
      const on = ground === 'main' ? `${rule} :is(a,h1,h2,h3,figcaption){color:inherit;}` : ''
      return `${rule}{border-radius:4px;${background[ground]}${border[edge]}${padding[room]}}${on}`
    })
    .join('')
