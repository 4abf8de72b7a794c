/** What the routes of the console answer with, part by part, by the names the screens know it under. */
import type { LoftAnswer, LoftAsk, LoftStart } from './loft-api'

/** A version of the site's contents, as the console keeps it. */
export type SentVersion = LoftStart['versions'][number]
export type Edition = LoftAnswer<'GET editions'>[number]
export type Planned = LoftAnswer<'GET planned'>[number]
export type HistoryRow = LoftAnswer<'GET entries/:kind/:key/history'>[number]

export type ListedPerson = LoftAnswer<'GET people'>['people'][number]
export type PersonTold = LoftAnswer<'GET people/:id'>
export type Firm = LoftAnswer<'GET firms'>[number]
export type Invitation = LoftAnswer<'GET people/invitations'>[number]
export type Queues = LoftAnswer<'GET queues'>
export type BulkWhat = LoftAsk<'POST people/bulk/preview'>['body']['what']
export type BulkLogged = LoftAnswer<'GET people/bulk'>[number]
export type BulkPreview = LoftAnswer<'POST people/bulk/preview'>

export type SettingsTold = LoftAnswer<'GET settings'>
export type SiteSettings = Required<SettingsTold['settings']>
export type SiteIdentity = NonNullable<SettingsTold['site']>
export type Outbox = LoftAnswer<'GET mail/outbox'>
export type MailText = LoftAnswer<'GET mail/texts'>[number]

export type ActivitySummary = LoftAnswer<'GET activity'>
export type ListedActivity = LoftAnswer<'GET activity/list'>['rows'][number]

export type ListedOrder = LoftAnswer<'GET orders'>['orders'][number]
export type OrderTold = LoftAnswer<'GET orders/:number'>
export type PaymentMatter = LoftAnswer<'GET payments'>[number]
export type CountedCode = LoftAnswer<'GET codes'>[number]
export type ListedCode = LoftAnswer<'GET codes/:offer'>['codes'][number]

export type GoodsCounted = LoftAnswer<'GET products'>
/** What of a product one may write. */
export type ProductPart = GoodsCounted['may'][number][number]
export type StockTold = LoftAnswer<'GET products/:id/stock'>
export type FactTried = LoftAnswer<'POST fact-services/try'>
export type Brought = LoftAnswer<'POST site-folder'>
export type SiteReading = LoftAnswer<'GET site-reading'>
export type OutsideFolder = LoftAnswer<'GET site-reading/folder'>
export type BroughtSite = LoftAnswer<'POST site-reading/bring'>
export type Upload = LoftAnswer<'POST uploads'>

export type GoodsPlan = LoftAnswer<'POST products/import'>
export type RatesPlan = LoftAnswer<'POST taxes/import'>
export type PeoplePlan = LoftAnswer<'POST people/import'>
