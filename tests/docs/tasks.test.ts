/** What the console knows how to begin, against what people type, and the page that tells of it. */
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { findTasks } from '../../app/loft/frame/tasks/find-tasks'
import { tasks } from '../../app/loft/frame/tasks/tasks'
import { tasksDoc } from '../../scripts/tasks-doc'

const first = (text: string) => findTasks(text)[0]?.key

describe('what people want to do', () => {
  it('is found by what it is called and by every other word for it, first or among the first', () => {
    for (const { key, says, also } of tasks) {
      expect([says, first(says)]).toEqual([says, key])
      for (const words of also)
        expect([words, findTasks(words).map(one => one.key)]).toEqual([words, expect.arrayContaining([key])])
    }
    expect(new Set(tasks.map(one => one.key)).size).toBe(tasks.length)
  })

  it('is found in everyday sentences, whatever their order, with hyphens or without', () => {
    const said = {
      'how do I hide a page from guests?': 'hide-page',
      'hide pages from logged out visitors': 'hide-page',
      'wholesale price': 'wholesale',
      'prices for resellers': 'wholesale',
      'another menu for members': 'menu',
      'different navigation for logged-in users': 'menu',
      'vat free for schools': 'vat-free',
      'tax exemption for teachers': 'vat-free',
      'sell a membership': 'sell-level',
      'charge for membership': 'sell-level',
      'send people somewhere after signing in': 'landing',
      'login redirect': 'landing',
      'redirect after log-in': 'landing',
      coupon: 'code',
      'free shipping': 'free-delivery',
      'approve new members': 'approve',
      'see the site as a customer': 'look-as',
      'protect pdf files': 'file',
      'duplicate role': 'copy-role',
      'undo changes': 'back',
      'translate to german': 'language',
    }
    for (const [words, key] of Object.entries(said)) expect([words, first(words)]).toEqual([words, key])
  })

  it('is not found where a word is about nothing of it', () => {
    expect(findTasks('hide a page from penguins')).toEqual([])
    expect(findTasks('the of my')).toEqual([])
    expect(findTasks('Fell DK')).toEqual([])
    expect(findTasks('')).toEqual([])
  })

  it('is told in docs/tasks.md as the console knows it', () => {
    expect(readFileSync(new URL('../../docs/tasks.md', import.meta.url), 'utf8')).toBe(tasksDoc())
  })
})
