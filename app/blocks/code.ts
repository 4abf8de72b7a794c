import type { AppBlock } from './app-block'

export const code: AppBlock = {
  name: 'code',
  says: 'The code of an offer, for those the offer is for; others do not learn of it.',
  first: { offer: '' },
  fields: [
    {
      key: 'offer',
      label: 'Of the offer',
      type: 'choice',
      options: (_, { offers = [] }) => [
        { value: '', label: 'choose an offer with a code' },
        ...offers.filter(one => one.code !== undefined).map(({ id, name = id }) => ({ value: id, label: name })),
      ],
    },
    { key: 'text', label: 'Words above it', type: 'words', wide: true },
  ],
}
