/** The English of problems. Another language is another file like this one. */
import { english } from '../../core/site-words/english'
import { kindNames } from '../../core/sentences/words'
import { sayStaffAnswer } from '../../core/staff/say-staff-rule'
import { staffKinds } from '../../core/staff/staff-kinds'
import { orderStateWords } from '../../core/orders/order-words'
import type { FactGroup } from '../../core/visitor/fact-group'
import type { FactsOf, ProblemCode, Reason, RightMissing, Staleness, Weakness } from './problems'

export const titles: Record<ProblemCode, string> = {
  'not-json': 'The body is not JSON',
  'bad-input': 'Something in the request does not fit',
  'bad-path': 'This is not an address',
  'wrong-sign-in': 'The address or the password is not right',
  'sign-in-needed': 'Sign in first',
  'not-confirmed': 'The address has not been confirmed yet',
  waiting: 'The sign-up still waits to be looked at',
  suspended: 'This account is not in use',
  'sign-up-closed': 'Nobody can sign up here now',
  'not-allowed': 'Your roles do not allow this',
  'other-origin': 'The request came from another site',
  'bad-token': 'The link or signature is not valid',
  'token-expired': 'The preview link has expired',
  'link-not-yours': 'This link was made for somebody else',
  'not-found': 'There is nothing here',
  'wrong-method': 'This cannot be done here',
  'too-slow': 'What was sent came too slowly',
  'changed-meanwhile': 'Somebody else changed this meanwhile',
  'nothing-to-publish': 'The draft holds no changes',
  'in-use': 'Something still needs this',
  taken: 'This is taken already',
  'not-for-sale': 'This cannot be bought',
  'mail-unchecked': 'It is not known whether mail works',
  'link-expired': 'This link has run out',
  'range-past-end': 'The file ends before that',
  'too-large': 'The body is too large',
  'wrong-type': 'The body must be application/json',
  'rules-broken': 'The rules would not hold together',
  'too-many-tries': 'Too many tries, wait a while',
  'no-room': 'There is no room left for files',
  busy: 'Too much is asked at once, try again in a moment',
  unavailable: 'The site cannot answer just now, try again in a moment',
}

const weakPasswords: Record<Weakness, string> = {
  own: english['wrong.password-own'],
  keyboard: english['wrong.password-keyboard'],
  common: english['wrong.password-common'],
}
const stalePurchases: Record<Staleness, string> = {
  settled: english['wrong.stale-settled'],
  replaced: english['wrong.stale-replaced'],
  expired: english['wrong.stale-expired'],
  changed: english['wrong.stale-changed'],
}
const notAskedOfPeople = {
  records: 'What is in records',
  opening: 'What somebody can open',
  elsewhere: 'A fact that is not of the profile',
  this: 'This',
}
const factGroupNames: Record<FactGroup, string> = {
  person: 'who they are',
  clock: 'the time',
  basket: 'their basket',
  device: 'their device',
  country: 'their country',
  language: 'their language',
  address: 'their network',
  referrer: 'where they came from',
  query: 'what the address says',
}
const spans: Record<number, string> = { 1: 'a minute', 10: 'ten minutes', 60: 'an hour' }
const waits = (minutes: number) => spans[minutes] ?? `${minutes} minutes`
const kindName = (kind: string) => (Object.hasOwn(kindNames, kind) ? kindNames[kind as 'page'] : kind)
/** Of several rights of which any would do, as many are said. */
const mostSaid = 4
const askedFor = ({ kind, action, asked }: Pick<RightMissing, 'kind' | 'action' | 'asked'>) =>
  `${action === 'look' ? 'look at' : action} ${asked?.length ? `${asked.join(', ')} of ` : ''}${staffKinds[kind].many}`

type Sentence<F> = F extends undefined ? string : (facts: F) => string
const sentences: { [R in Reason]: Sentence<FactsOf<R>> } = {
  'no-such-entry-kind': ({ kind }) => `There is no kind of entry “${kind}”.`,
  'no-such-kind': ({ kind }) => `There is no kind “${kind}”.`,
  'no-such-mail-text': 'There is no such mail text.',
  'no-such-settings': 'There are no such settings.',
  'no-such-thing-kind': ({ kind }) => `There is no kind of thing “${kind}”.`,
  'no-such-edition': ({ edition }) => `There is no edition ${edition}.`,
  'no-such-change': 'The draft holds no such change.',
  'no-such-step': 'There is nothing of yours like that to take back: it was taken back already, or is too long ago.',
  'no-such-entry': ({ kind, key }) => `There is no ${kind} “${key}”.`,
  'no-such-place': ({ kind }) => `There is no such ${kind}.`,
  'no-such-version': 'There is no such version of it.',
  'no-earlier-edition': ({ edition }) => `There is no earlier edition ${edition}.`,
  'not-set-up': 'The site has not been set up yet.',
  'no-such-person': 'There is no such person.',
  'stranger-stops-here':
    'Here the stranger’s way ends: what this form does would be done for real. The way in and out can be walked.',
  'stranger-led-away': ({ to }) => `The way leads on to ${to}, away from the site.`,
  'no-such-mail': 'There is no such mail.',
  'no-such-purchase': english['wrong.no-such-purchase'],
  'no-such-level-or-role': 'There is no such level or role.',
  'no-applications': english['wrong.no-applications'],
  'no-such-bulk-change': 'There is no such change, or it was undone already.',
  'no-such-firm': 'There is no such firm.',
  'not-in-firm': english['wrong.not-in-firm'],
  'ended-already': 'This has ended already.',
  'no-such-invitation': english['wrong.no-such-invitation'],
  'no-such-product': 'There is no such product.',
  'only-key-words-mail':
    'This mail carries a link or code that lets its reader in: only the master key changes its words.',
  'only-key-names-keys': 'Only the master key says which roles hold it.',
  'role-above-yours': 'This role may do more than you may.',
  'not-your-plan': 'Only who planned it, or who publishes rules, takes it back.',
  'planner-gone': ({ planner }) => `${planner} is no longer with the site, or is suspended.`,
  'only-looked': 'This role may do that. You only look as it, so nothing was done.',
  'role-sees-more': 'This staff role sees more than you may: only somebody who may as much walks as it.',
  'only-owner-invites': english['wrong.only-owner-invites'],
  'only-owner-says': english['wrong.only-owner-says'],
  'invitation-of-another': english['wrong.invitation-of-another'],
  'only-owner-removes': english['wrong.only-owner-removes'],
  'only-owner-takes-back': english['wrong.only-owner-takes-back'],
  'role-hands-more': 'This role may do more than you may: only somebody who may as much hands it out or takes it back.',
  'person-above-you': 'This person may do more than you may: only somebody who may as much changes how they sign in.',
  'rights-above-yours': 'Nobody hands out or takes away more than they may do themselves.',
  'weak-password': ({ why }) => weakPasswords[why],
  'does-not-fit': ({ issues }) => issues.map(issue => `${issue.at || '/'}: ${issue.message}`).join(' '),
  'value-out-of-range': 'A value is out of range or of the wrong form.',
  'character-not-kept': 'There is a character that cannot be kept: U+0000, or half of a surrogate pair.',
  'nested-too-deep': ({ most }) => `The body is nested more than ${most} deep.`,
  'other-id': 'The id in the body is not the one in the address.',
  'staff-role-with-level': ({ role }) => `“${role}” is a staff role: it goes to people by name, never with a level.`,
  'time-is-past': 'A time in the future is expected.',
  'file-type-unknown': ({ name, known }) =>
    `“${name}” is no file of a kind that is kept here: a name ends in one of ${known.join(', ')}.`,
  'file-not-as-named': ({ name, found }) =>
    `“${name}” is not what its name says: its bytes are ${found}. Give it the name it should have, or look where it came from.`,
  'file-without-name': 'A file has a name.',
  'unknown-file': 'This file is not kept here: upload it first.',
  'upload-without-offset': 'The header Upload-Offset says from which byte on this is.',
  'no-such-upload':
    'Nothing is on its way in under this name: it was done, given up, or left alone for a day. Begin it again.',
  'upload-elsewhere': ({ received }) => `${received} bytes are here: go on from there.`,
  'upload-under-way': 'This file is on its way in already. Wait for it to end or break off.',
  'upload-too-long': ({ size }) => `More was sent than the ${size} bytes that were said.`,
  'file-too-large': ({ most }) => `A file is at most ${most} MB here.`,
  'uploads-under-way': ({ most }) =>
    `${most} files of yours are on their way in. Let one end, or give one up, before the next.`,
  'fact-does-not-fit': ({ name, type }) =>
    type === 'vatNumber'
      ? `${name} has the form its country gives: its two letters, then the number, such as IE6388047V.`
      : `This does not fit ${name}.`,
  'bad-outside-address': 'The whole address of a site is expected, such as https://mill.example/.',
  'not-read-from': ({ why }) => why,
  'reading-under-way': ({ address }) => `${address} is being read. One site is read after the other.`,
  'no-reading': 'No site is being read, and none was lately.',
  'fetched-enough': ({ most }) =>
    `You have fetched ${most} ${most === 1 ? 'file' : 'files'} today, and that is as many as your levels allow. What you have fetched today you can fetch again; others from tomorrow.`,
  'file-not-yours': ({ called, why }) => why || `“${called}” is for others. Its page says for whom.`,
  'file-after-sign-in': ({ called }) => `“${called}” is not for everybody. Sign in if it is for you.`,
  'no-picture': 'This is no picture that can be read: PNG, JPEG, GIF, WebP and AVIF are.',
  'unknown-picture': 'This picture is not kept here: upload it first.',
  'picture-too-wide': ({ pixels }) =>
    `A picture has at most ${pixels} million pixels, all its frames together, and 20,000 to a side.`,
  'text-too-slow': 'This text took too long to read: divide it.',
  'file-damaged': 'The bytes of this file are not what they were: whoever runs the site is told.',
  'busy-reading': 'Too much is being read at once.',
  'thing-does-not-fit': ({ why }) => why,
  'lies-in-itself': ({ kind }) => `A ${kindName(kind)} cannot lie in itself.`,
  'unknown-thing': ({ kind, id }) => `There is no ${kindName(kind)} “${id}”.`,
  'holds-nothing': 'Nothing can stand in that.',
  'too-deep': ({ most }) => `No more than ${most} can lie in one another.`,
  'nothing-to-change': 'Nothing is to be changed.',
  'not-beside': ({ before }) => `“${before}” does not stand beside it.`,
  'staff-role-by-invitation': 'A staff role is handed out by name, never by an invitation.',
  'unknown-firm': ({ firm }) => `There is no firm “${firm}”.`,
  'wrong-code': 'This is not the code that was sent.',
  'no-notice': 'This is no notice.',
  'master-key-applied-for': 'The master key is not applied for.',
  'name-staff-role': ({ role }) => `${role} is a staff role: confirm it by naming it again.`,
  'nobody-changed': 'This would change nobody.',
  'confirm-staff-role': ({ people }) =>
    `Confirm by naming the role and that ${people} ${people === 1 ? 'person gets' : 'people get'} it.`,
  'not-asked-of-people': ({ what }) => `${notAskedOfPeople[what]} cannot be asked of a list of people.`,
  'unknown-person': 'There is no such person.',
  'end-is-past': 'The end lies in the past.',
  'staff-role-to-firm': 'A staff role goes to a person, never to a firm.',
  'unknown-role': ({ role }) => `There is no role “${role}” in the live edition.`,
  'unknown-level': ({ level }) => `There is no level “${level}” in the live edition.`,
  'not-utf-8': 'The file is not UTF-8.',
  'rates-not-right': ({ lines }) =>
    `${lines} ${lines === 1 ? 'line is' : 'lines are'} not right; no rate was taken over.`,
  'lines-not-right': ({ lines }) =>
    `${lines} ${lines === 1 ? 'line is' : 'lines are'} not right; nobody was taken over.`,
  'staff-role-on-sign-up': 'A staff role is handed out by name, never on sign-up.',
  'unknown-in-sentence': ({ why }) => `The sentence does not fit the live edition: ${why}`,
  'not-known-at-door': ({ groups }) =>
    `Of somebody new this is not known here: ${groups.map(group => factGroupNames[group]).join(', ')}. Say it by what they are or what they answered.`,
  'fact-asked-twice': ({ fact }) => `“${fact}” is asked for twice.`,
  'unknown-fact': ({ fact }) => `There is no fact “${fact}” in the live edition.`,
  'no-staff-role': ({ role }) => `“${role}” is no staff role, live or in the draft.`,
  'rule-of-another-role': 'Every rule belongs to the role in the address.',
  'unknown-audience': ({ audience }) => `There is no audience “${audience}” in the live edition.`,
  'unknown-method': ({ method, known }) => `${method} is not known here; ${known.join(', ')} are.`,
  'taken-meanwhile': 'Somebody else took this meanwhile. Look again.',
  'address-taken': ({ title, path }) => `“${title}” already has the address ${path}.`,
  'thing-id-taken': ({ kind, id }) => `There is a ${kindName(kind)} with the id ${id} already.`,
  'applied-already': english['wrong.applied-already'],
  'in-a-firm': ({ firm }) =>
    firm === null
      ? 'They belong to this firm already.'
      : `They belong to ${firm}, and a person belongs to one firm at most.`,
  'role-id-taken': ({ id }) => `There is a role with the id ${id} already.`,
  'firm-id-taken': ({ id }) => `There is a firm with the id ${id} already.`,
  'address-in-use': english['wrong.address-in-use'],
  'reference-gone': 'Something this refers to is gone, or still refers to it. Look again.',
  'level-brings-staff-role': ({ level }) =>
    `The level “${level}” brings a staff role: it goes to people by name, never with a level.`,
  'holders-would-be-staff': ({ holders }) =>
    `Held by ${holders.join(', ')}: they would all enter the loft. Make a new staff role, and hand it out by name.`,
  held: ({ holders }) => `Held by ${holders.join(' and ')}.`,
  'being-bought': ({ buying }) => `${buying} ${buying === 1 ? 'person is' : 'people are'} buying it right now.`,
  'being-asked-for': ({ asking }) => `${asking} ${asking === 1 ? 'application waits' : 'applications wait'} for it.`,
  'master-role-fixed': 'This role holds the master key: it can be read, and is fixed.',
  'no-master-role': 'Some role holds the master key, or nobody could keep the site.',
  'sort-switched-off': ({ sort }) =>
    `Parts of the kind “${sort}” are switched off for this site: one can be read, and not written.`,
  'blocks-in-it': 'Blocks stand in it: move them out first.',
  'things-under-it': ({ many, below }) => `${below.length} ${many} under it: ${below.join(', ')}.`,
  'firm-without-owner': english['wrong.firm-without-owner'],
  'still-used': ({ by }) => `Still used by ${by.join(', ')}.`,
  'nobody-holds-key': 'Nobody who can sign in holds one of these master keys: nobody could keep the site.',
  'last-keeper': english['wrong.last-keeper'],
  'firm-left-without-owner': ({ firm }) => `${firm} would be left without an owner: make a colleague its owner first.`,
  'master-key-fixed': 'This role holds the master key: it may do everything, and that is fixed.',
  'picture-too-large': ({ most }) => `A picture is at most ${most} MB.`,
  'too-many-pictures': ({ most }) => `You uploaded ${most} MB of pictures within a day. Go on tomorrow.`,
  'body-too-large': ({ most }) =>
    `The body is larger than ${most >= 1_048_576 ? `${most / 1_048_576} MB` : `${most / 1024} kB`}.`,
  'body-not-json': ({ why }) => `The body is not JSON: ${why}`,
  'changed-by': ({ by }) =>
    by === null ? 'This was removed while you were editing.' : `${by} changed this while you were editing.`,
  'step-overtaken': ({ what, by, more }) =>
    `${what}${more ? ` and ${more} more` : ''} ${more ? 'were' : 'was'} changed since${by === null ? '' : `, last by ${by}`}: nothing is taken back over that.`,
  'published-meanwhile': ({ live }) => `Edition ${live} was published meanwhile.`,
  'chosen-gone': 'Not everything that was chosen is still in the draft.',
  'sign-up-decided': english['wrong.sign-up-decided'],
  'mail-sent': 'It was sent meanwhile.',
  'mail-useless': 'What it says is of no use any more. Let it be asked for anew.',
  'price-changed': english['wrong.price-changed'],
  'not-paid': 'Only what was paid can be given back.',
  'application-decided': 'Somebody decided about this meanwhile.',
  'people-changed': 'Somebody changed these people meanwhile. Look at the preview again.',
  'belongs-together': ({ with: others }) =>
    `This goes only together with ${others.map(one => `${one.kind} “${one.key}”`).join(', ')}.`,
  'no-master-key': 'The rulebook names no master key.',
  'same-as-edition': ({ edition }) => `Nothing differs from edition ${edition}.`,
  'link-used': english['wrong.link-used'],
  'invitation-used': english['wrong.invitation-used'],
  'confirmation-used': english['wrong.confirmation-used'],
  'notice-unsigned': 'The notice is not signed by the payment provider.',
  'not-sign-up-password': english['wrong.not-sign-up-password'],
  'mail-not-checked': 'Check that mail works first: without it nobody could confirm anything.',
  'edition-broken': ({ broken }) => broken.map(one => `${one.at}: ${one.message}`).join(' '),
  'right-missing': missing =>
    sayStaffAnswer({ ...missing, allowed: false }, 'You', askedFor(missing), { role: id => id, audience: id => id }),
  'one-right-missing': ({ anyOf }) =>
    `You may not: no sentence says “may ${anyOf
      .slice(0, mostSaid)
      .map(one => askedFor(one))
      .join('” or “may ')}”.`,
  'not-enough-free': ({ free }) => `Only ${free} are free.`,
  'stock-moved': ({ pieces }) => `Somebody counted meanwhile: there are ${pieces} now.`,
  'no-such-offer': 'There is no such offer.',
  'no-such-code': english['wrong.no-such-code'],
  'code-not-for-you': english['wrong.code-not-for-you'],
  'code-after-sign-in': english['wrong.code-after-sign-in'],
  'code-used-up': english['wrong.code-used-up'],
  'code-used-by-you': ({ most }) => `One person may use this code ${most === 1 ? 'once' : `${most} times`}.`,
  'no-codes-left': english['wrong.no-codes-left'],
  'not-a-count': ({ most }) => `A whole number from 1 to ${most}.`,
  'basket-full': english['wrong.basket-full'],
  'basket-empty': english['wrong.basket-empty'],
  'basket-changed': english['wrong.basket-changed'],
  'till-empty': english['wrong.till-empty'],
  'kept-too-long': english['wrong.kept-too-long'],
  'sold-out': ({ what, free }) => `Of ${what} only ${free} are left.`,
  'choose-variant': english['wrong.choose-variant'],
  'one-at-a-time': english['wrong.one-at-a-time'],
  'not-sold-to-you': english['wrong.not-sold-to-you'],
  'delivery-not-chosen': english['wrong.delivery-not-chosen'],
  'not-sent-there': english['wrong.not-sent-there'],
  'gives-after-sign-in': english['wrong.gives-after-sign-in'],
  'gift-taken': english['wrong.gift-taken'],
  'no-such-order': 'There is no such order.',
  'refunded-with-order': ({ number }) =>
    `This came with order ${number}: give back its goods there, and what they gave goes with them.`,
  'order-not-so': ({ state }) => `By now the order is “${orderStateWords[state]}”: this cannot be done to it.`,
  'more-than-paid': 'That is more than was paid and not given back yet.',
  'order-not-paid': 'The order is not paid.',
  'order-sent-already': 'The order is sent already.',
  'offer-without-codes': 'This offer is not one whose codes are made one by one: say so at the offer first.',
  'too-often': ({ what, minutes }) =>
    `Too many ${what === 'sign-ups' ? 'sign-ups from here' : what}. Wait ${waits(minutes)}.`,
  'signed-in-too-often': ({ minutes }) =>
    `Too many tries for this address. Wait ${waits(minutes)}, or choose another password by mail.`,
  'level-not-sold': english['wrong.level-not-sold'],
  'held-for-good': english['wrong.held-for-good'],
  'purchase-stale': ({ why }) => stalePurchases[why],
}

/** What a reason says with its facts. */
export function sentenceOf(reason: Reason, facts: unknown): string {
  const sentence = sentences[reason] as string | ((facts: unknown) => string)
  return typeof sentence === 'string' ? sentence : sentence(facts)
}
