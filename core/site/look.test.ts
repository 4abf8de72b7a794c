import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { contrast, leastContrast, lookColours, lookProblems, lookSheet, markOf, siteLook } from './look'

const colours = fc.integer({ min: 0, max: 0xffffff }).map(one => `#${one.toString(16).padStart(6, '0')}`)

describe('the look of the public site', () => {
  it('knows contrast as WCAG has it', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21)
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2)
    expect(contrast('#123456', '#123456')).toBe(1)
  })

  it('comes with a look that can be read', () => {
    expect(lookProblems(siteLook.parse({}))).toEqual([])
  })

  it('refuses a ground in the middle and links that fade into it, at their place', () => {
    expect(lookProblems({ colour: '#7d3a22', ground: '#888888' }).map(one => one.at)).toContain('ground')
    expect(lookProblems({ colour: '#f2d0c0', ground: '#ffffff' }).map(one => one.at)).toEqual(['colour'])
    const refused = siteLook.safeParse({ colour: '#f2d0c0' })
    expect(refused.success || refused.error.issues[0]).toMatchObject({ path: ['colour'] })
  })

  it('whatever is taken can be read, words on buttons too', () => {
    fc.assert(
      fc.property(colours, colours, (colour, ground) => {
        const { onMain, main, paper, soft, ink, tint } = lookColours({ colour, ground })
        expect(contrast(onMain, main)).toBeGreaterThan(4.2)
        if (lookProblems({ colour, ground }).length) return
        expect(contrast(main, paper)).toBeGreaterThanOrEqual(leastContrast)
        expect(contrast(soft, paper)).toBeGreaterThanOrEqual(leastContrast)
        expect(contrast(ink, tint)).toBeGreaterThanOrEqual(leastContrast)
      }),
    )
  })

  it('makes a mark of the name where no letters are given', () => {
    expect(markOf({ mark: 'letters', letters: '' }, 'Wexlow Mill')).toEqual({ letters: 'WM' })
    expect(markOf({ mark: 'letters', letters: 'W' }, 'Wexlow Mill')).toEqual({ letters: 'W' })
    expect(markOf({ mark: 'twill', letters: '' }, 'Wexlow Mill')).toEqual({ pattern: 'twill' })
    expect(markOf({ mark: 'none', letters: 'W' }, 'Wexlow Mill')).toBeNull()
  })

  it('has looks of its own for parts, of its palette, each of a name of its own', () => {
    const own = [
      { id: 'members', name: 'For members', ground: 'main', edge: 'frame', room: 'wide' },
      { id: 'quiet', name: 'Quiet' },
    ]
    const sheet = lookSheet(siteLook.parse({ own }))!
    expect(sheet).toContain('.accent.own-members{border-radius:4px;background:var(--madder);')
    expect(sheet).toContain('.accent.own-quiet{border-radius:4px;background:var(--tint);padding:16px 22px;}')
    expect(sheet).not.toContain(':root')
    expect(lookSheet(siteLook.parse({}))).toBeNull()
    const twice = siteLook.safeParse({ own: [own[1], own[1]] })
    expect(twice.error?.issues[0]).toMatchObject({ path: ['own', 1, 'name'] })
    expect(siteLook.safeParse({ own: [{ id: 'x}body{display:none', name: 'X' }] }).success).toBe(false)
  })
})
