/** What the form for signing up asks, and how it is read. */
import { z } from 'zod'
import type { Condition } from '../../../core/conditions/condition'
import type { Fact } from '../../../core/rulebook/people-rules'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { word } from '../../../core/site-words/site-words'
import type { Word } from '../../../core/site-words/site-words'
import { oneLine } from '../../../core/texts/control-characters'
import type { SignUpForm } from '../../../core/view/view'
import { fitsType, ofFirms } from '../../../core/visitor/fact-type'
import { foldedVatNumber, isVatNumber } from '../../../core/visitor/vat-number'
import type { SiteSettings } from '../settings/settings'

/** How long it may be; how easily guessed is asked of `password-strength`. */
export const password = z.string().min(10, 'A password has ten characters or more.').max(1000)
export const personName = z
  .string()
  .max(1000)
  .transform(oneLine)
  .pipe(z.string().trim().min(1, 'A name is needed.').max(200))
export const emailAddress = z.string().trim().max(320).pipe(z.email('This is not an e-mail address.'))

type FormWorld = { book: Rulebook; settings: SiteSettings }
export type FactValues = Record<string, string | number | boolean>

/** The profile facts sign-up asks for, with what the rules say about each. */
export function askedFacts({ book, settings }: FormWorld): (Fact & { required: boolean; of?: Condition })[] {
  return settings['sign-up'].facts.flatMap(({ fact, required, of }) =>
    (book.facts ?? [])
      .filter(one => one.id === fact && !one.from)
      .map(one => ({ ...one, required, ...(of ? { of } : {}) })),
  )
}

/** Of these, those an owner may say of their firm, for all its people. */
export const firmFactsAsked = (world: FormWorld) => askedFacts(world).filter(ofFirms)

/** What the form for signing up asks. */
export const signUpForm = (world: FormWorld): SignUpForm => ({
  mode: world.settings['sign-up'].mode,
  facts: askedFacts(world).map(({ id, name, type, choices, required, of }) => ({
    id,
    name: name ?? id,
    type,
    choices: choices ?? [],
    required,
    ...(of ? { of } : {}),
  })),
})

/** Reads facts from a form's texts. An empty field is an absent fact; what does not fit its type is told at the field. */
export function readFacts(
  facts: readonly (Fact & { required?: boolean })[],
  form: Record<string, string | undefined>,
): { values: FactValues; problems: Record<string, Word> } {
  const values: FactValues = {}
  const problems: Record<string, Word> = {}
  for (const fact of facts) {
    const typed = (form[`fact-${fact.id}`] ?? '').trim()
    const name = fact.name ?? fact.id
    if (fact.type === 'flag') {
      values[fact.id] = typed === 'on' || typed === 'yes'
      continue
    }
    if (!typed) {
      if (fact.required) problems[`fact-${fact.id}`] = word('wrong.fact-needed', { name })
      continue
    }
    const value = fact.type === 'number' ? Number(typed) : fact.type === 'vatNumber' ? foldedVatNumber(typed) : typed
    const fits =
      fitsType(value, fact.type) &&
      (fact.type !== 'number' || Number.isFinite(value)) &&
      (fact.type !== 'vatNumber' || isVatNumber(String(value))) &&
      (fact.type !== 'choice' || fact.choices?.includes(typed))
    if (fits) values[fact.id] = value
    else
      problems[`fact-${fact.id}`] =
        fact.type === 'number'
          ? word('wrong.fact-number', { name })
          : fact.type === 'date'
            ? word('wrong.fact-date', { name })
            : fact.type === 'vatNumber'
              ? word('wrong.fact-vat', { name })
              : word('wrong.fact-choice', { name, choices: fact.choices?.join(', ') ?? '' })
  }
  return { values, problems }
}
