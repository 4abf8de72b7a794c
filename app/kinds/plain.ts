/** Kinds that are written in a form of fields, for now. */
import { weavePatterns } from '~~/core/kinds/weave-patterns'
import { appKind } from './app-kind'
import type { KindField, SaidField } from './app-kind'

const title: KindField = { key: 'title', label: 'Title', type: 'text', needed: true }
const path = (hint: string, needed?: true): KindField => ({
  key: 'path',
  label: 'Address',
  type: 'text',
  hint,
  ...(needed ? { needed } : {}),
})
const summary: KindField = {
  key: 'summary',
  label: 'Summary',
  type: 'words',
  hint: 'What lists and teasers tell of it.',
}
const words: KindField = { key: 'words', label: 'Words', type: 'words', rows: 8, hint: 'Markdown.' }

/** What stands at the head of a page, and which language it is in. */
export const aboutPage: readonly KindField[] = [
  { key: 'language', label: 'Language, where not the site’s', type: 'text', hint: 'de' },
  {
    key: 'picture',
    label: 'Picture at its head',
    type: 'picture',
    choices: weavePatterns,
  },
]

export const topic = appKind({ fields: [title], holds: true, listed: { group: 'Posts', order: 2 } })
export const post = appKind({
  fields: [
    title,
    path('/notes/a-wet-spring', true),
    { key: 'topics', label: 'Topics', type: 'many', of: 'topic' },
    { key: 'author', label: 'Written by', type: 'text' },
    { key: 'date', label: 'Of the day', type: 'text', hint: '2026-11-24' },
    ...aboutPage,
    summary,
    words,
  ],
  walks: true,
  blocks: true,
  listed: { group: 'Posts', order: 1 },
})
export const folder = appKind({
  fields: [title, { key: 'parent', label: 'Lies in', type: 'one', of: 'folder' }],
  parent: ({ parent }) => parent as string | undefined,
  holds: true,
  takesFiles: 'download',
  listed: { group: 'Downloads', order: 2 },
})
export const download = appKind({
  fields: [
    title,
    path('/files/harbour-cowl'),
    { key: 'folder', label: 'Folder', type: 'one', of: 'folder' },
    { key: 'file', label: 'File', type: 'file' },
    summary,
    words,
  ],
  walks: true,
  listed: { group: 'Downloads', order: 1 },
})
const said = (field: string, none: string): SaidField => ({ field, none })
const followed = (field: string, none: string): SaidField => ({ field, none, followed: true })

/** Left out it is so; said only where it is not. */
const yesOrNo = (yes: string, no: string): Pick<KindField, 'type' | 'options' | 'read' | 'write'> => ({
  type: 'choice',
  options: () => [
    { value: '', label: yes },
    { value: 'no', label: no },
  ],
  read: kept => (kept === false ? 'no' : ''),
  write: value => (value === 'no' ? false : undefined),
})

export const category = appKind({
  fields: [
    title,
    path('/shop/yarn'),
    { key: 'parent', label: 'Lies in', type: 'one', of: 'category' },
    { key: 'picture', label: 'Picture at its head', type: 'picture', choices: weavePatterns },
    summary,
  ],
  parent: ({ parent }) => parent as string | undefined,
  walks: true,
  blocks: true,
  listed: { group: 'Goods', order: 2 },
})
export const product = appKind({
  fields: [
    title,
    path('/shop/goods/fell-dk'),
    { key: 'categories', label: 'Categories', type: 'many', of: 'category', unless: 'of' },
    { key: 'of', label: 'A variant of', type: 'one', of: 'product' },
    {
      key: 'options',
      label: 'What tells it apart',
      type: 'pairs',
      hint: 'colour: moss, size: 50 g',
      with: 'of',
    },
    { key: 'price', label: 'Price', type: 'money' },
    { key: 'taxCategory', label: 'Tax category', type: 'text', hint: 'standard' },
    { key: 'goodsTaxed', label: 'Is it taxed?', ...yesOrNo('taxed', 'not taxed') },
    { key: 'deliveryTaxed', label: 'Is sending it taxed?', ...yesOrNo('taxed', 'not taxed') },
    { key: 'sent', label: 'Is it sent?', ...yesOrNo('sent', 'nothing to send') },
    { key: 'weight', label: 'Grams of one', type: 'number', hint: '55', unit: 'g' },
    {
      key: 'gives',
      label: 'Gives a level',
      type: 'choice',
      options: (_, book) => [
        { value: '', label: 'nothing' },
        ...(book.levels ?? []).map(level => ({ value: level.id, label: level.name ?? level.id })),
      ],
      read: kept => (kept as { level?: string } | undefined)?.level ?? '',
      write: value => (value ? { level: value } : undefined),
    },
    { key: 'sale', label: 'On sale at', type: 'sale' },
    { key: 'picture', label: 'Picture', type: 'picture', choices: weavePatterns },
    summary,
    { ...words },
  ],
  says: [
    { parts: ['Lies in ', said('categories', 'no category'), '.'], when: ({ of }) => !of },
    { parts: ['It is ', said('of', 'no variant of other goods'), '.'], when: ({ of }) => !of },
    {
      parts: ['A variant of ', said('of', 'nothing'), ', told apart by ', said('options', 'nothing'), '.'],
      when: ({ of }) => !!of,
    },
    {
      parts: [
        'It costs ',
        followed('price', 'nothing of its own'),
        ', on sale at ',
        followed('sale', 'no other price'),
        '.',
      ],
    },
    {
      parts: [
        'Tax: ',
        followed('taxCategory', 'standard'),
        '; the goods: ',
        followed('goodsTaxed', 'taxed'),
        '; sending them: ',
        followed('deliveryTaxed', 'taxed'),
        '.',
      ],
    },
    { parts: ['Delivery: ', followed('sent', 'sent'), '; one weighs ', followed('weight', 'nothing said'), '.'] },
    { parts: ['Brings whoever buys it: ', followed('gives', 'nothing'), '.'] },
    { parts: ['It stands at ', said('path', 'no address'), ' with ', followed('picture', 'no picture'), '.'] },
    { parts: ['In lists it is called ', said('title', 'nothing'), ': ', followed('summary', 'no summary yet'), '.'] },
    { parts: ['Its page says ', followed('words', 'nothing more'), '.'] },
  ],
  parent: ({ of }) => of as string | undefined,
  walks: true,
  blocks: true,
  listed: { group: 'Goods', order: 1 },
})
export const register = appKind({})
