/** Where somebody is led: a path of the site, or an address elsewhere. Which hosts may be is said in the settings, and held against them with the rest. */
import { text } from '../shapes'
import { isLead } from '../site/leads'

export const lead = text('not-a-lead', isLead)
