/** What the core answers, room by room. A room that asks has its line here. */
import { answererOf } from '~/loft/core/worker/answering'
import { worldAnswers } from '~/loft/core/worker/world'
import { doorAnswers } from '~/loft/door/kit/answers'
import { gateAnswers } from '~/loft/kit/gates/answers'
import { impactAnswers } from '~/loft/kit/prices/answers'
import { sheetAnswers } from '~/loft/kit/sheet/answers'
import { publishAnswers } from '~/loft/kit/publish/answers'
import { peopleAnswers } from '~/loft/people/answers'
import { reachAnswers } from '~/loft/reach/answers'
import { deliveriesAnswers } from '~/loft/shop/delivery/answers'
import { listAnswers } from '~/loft/shop/list/answers'
import { pricesAnswers } from '~/loft/shop/prices/answers'
import { taxesAnswers } from '~/loft/shop/taxes/answers'
import { siteAnswers } from '~/loft/site/answers'
import { whoAnswers } from '~/loft/who/groups/answers'

export const answer = answererOf([
  worldAnswers,
  gateAnswers,
  publishAnswers,
  impactAnswers,
  reachAnswers,
  siteAnswers,
  sheetAnswers,
  pricesAnswers,
  taxesAnswers,
  deliveriesAnswers,
  listAnswers,
  whoAnswers,
  peopleAnswers,
  doorAnswers,
])
