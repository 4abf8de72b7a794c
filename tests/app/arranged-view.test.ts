import { describe, expect, it } from 'vitest'
import { arrangedView } from '../../app/loft/site/parts/arranged-parts'

describe('a part of an arrangement, as it would look', () => {
  it('says its words, those with a colon and those of passages too', () => {
    const markdown = 'The boat leaves at 8:10. :for[Bring the wheel.]{who="everyone"}'
    expect(arrangedView({ kind: 'text', body: { markdown } })).toMatchObject({
      html: expect.stringMatching(/8:10\. Bring the wheel\./),
    })
  })

  it('shows its own picture, read as whoever writes reads it', () => {
    const file = `${'ab'.repeat(32)}-12x8.png`
    const src = `/api/loft/pictures/${file}`
    expect(arrangedView({ kind: 'picture', body: { alt: 'A', file } })).toEqual({
      kind: 'picture',
      alt: 'A',
      src,
      width: 12,
      height: 8,
    })
  })
})
