import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Connection } from '../../server/db/database'
import { mailText } from '../../server/db/schema'
import { cleanHtml } from '../../server/services/mail/mail-html'
import { filledText, mailTextInput, mailTextKeys, mailTexts, textFor } from '../../server/services/mail/mail-texts'
import { freshDatabase } from '../support/database'

const reset = mailTexts.reset.text
const refusedAt = (part: object) => [
  ...new Set(
    mailTextInput('reset')
      .safeParse({ ...reset, ...part })
      .error?.issues.map(issue => issue.path[0]),
  ),
]

describe('a mail text', () => {
  it.each(mailTextKeys)('%s is taken as Bravik brings it', key =>
    expect(mailTextInput(key).safeParse(mailTexts[key].text).success).toBe(true),
  )

  it.each([
    '<p><a href="{link}">Choose another password</a></p>',
    '<p>{link}</p>',
    '<p>Choose another:<br>\n{link}\n</p>',
    '<p>Hello {name}</p><p><a href=" {link} ">Here</a></p>',
    '<table><tr><td align="left">{name}</td></tr></table>',
    '<p><a href="https://mill.example/help">Help</a></p>',
  ])('takes %s', html => expect(refusedAt({ html })).toEqual([]))

  it.each([
    '<img src="https://evil.example/?{link}">',
    '<img src="{link}">',
    '<a href="https://evil.example/?to={link}">x</a>',
    '<a href="{link}&amp;x=1">x</a>',
    '<p>see {link} now</p>',
    '<a href="https://evil.example/{name}">x</a>',
    '<p style="background:url(https://evil.example/x)">x</p>',
    '<link rel="stylesheet" href="https://evil.example/x.css">',
    '<style>@import "https://evil.example"</style>',
    '<script>1</script>',
    '<a href="javascript:alert(1)">x</a>',
    '<a href="//evil.example">x</a>',
    '<iframe src="https://evil.example"></iframe>',
    '<form action="https://evil.example"><input name="x"></form>',
    '<p title="{link}">x</p>',
    '<base href="https://evil.example/">',
    '<svg><image href="https://evil.example/x"/></svg>',
    '<p background="https://evil.example/x">x</p>',
    '<!--[if mso]>{link}<![endif]-->',
    '<meta http-equiv="refresh" content="0;url=https://evil.example">',
    '<a href="data:text/html,x">x</a>',
    '<p>&#123;link} here</p>',
  ])('refuses %s', html => expect(refusedAt({ html })).toEqual(['html']))

  it('keeps the link out of the subject, and on a line of its own in plain words', () => {
    expect(refusedAt({ subject: 'Go to {link}' })).toEqual(['subject'])
    expect(refusedAt({ plain: 'Go to https://evil.example/?{link}' })).toEqual(['plain'])
    expect(refusedAt({ plain: 'Go to:\n{link}\n{site}' })).toEqual([])
  })

  it('sends nothing that loads, whatever stands in it', () => {
    const sent = cleanHtml(
      '<p onclick="x()">A<img src="https://evil.example"><style>@import "x"</style><a href="javascript:x">b</a></p>',
    )
    expect(sent).toBe('<p>A<a>b</a></p>')
  })
})

describe('a text an older version kept', () => {
  let site: Connection & { url: string }
  beforeAll(async () => {
    site = await freshDatabase('demo')
  })
  afterAll(() => site.close())

  it('that would leak its link is not sent: the mail goes out as Bravik brings it', async () => {
    await site.db.insert(mailText).values({
      key: 'reset',
      subject: 'Hello',
      plain: 'x',
      html: '<img src="https://evil.example/?{link}">',
      changedBy: 'test',
    })
    const filled = filledText(await textFor(site.db, 'reset'), {
      name: 'Ines',
      link: 'https://mill.example/reset?token=secret',
      site: 'Mill',
    })
    expect(filled.html).not.toContain('evil')
    expect(filled.html).toContain('href="https://mill.example/reset?token=secret"')
  })
})
