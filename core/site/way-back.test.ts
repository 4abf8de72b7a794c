import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { wayBack } from './way-back'

describe('the way back', () => {
  it('keeps what somebody asked for, and leaves a query off that would make a header too long', () => {
    expect(wayBack('/visit?day=mon')).toBe('%2Fvisit%3Fday%3Dmon')
    expect(wayBack(`/visit?q=${'"'.repeat(3000)}`)).toBe('%2Fvisit')
    expect(wayBack(`/${'é'.repeat(1000)}`)).toBe('%2F')
  })

  it('is never long, whatever was asked for', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 4000 }), path => wayBack(`/${path}`).length <= 1500))
  })
})
