import type { FactsOfFinding, Finding, FindingCode } from '~~/core/audit/findings/findings'

/** A finding in words; `who` names the example tier. A finding without its words does not compile. */
const words: { [C in FindingCode]: (who: string, facts: FactsOfFinding<C>) => string } = {
  'landing-nowhere': (who, { to }) => `${who} would land on ${to}, where there is no page.`,
  'landing-shut': (who, { to }) => `${who} would land on ${to}, and cannot open it.`,
}

export const findingWords = ({ code, facts }: Finding, who: string): string => words[code](who, facts)
