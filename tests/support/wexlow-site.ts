/** The demo's things as rules see them, without a database. */
import { wexlowFrame } from './wexlow-frame'
import { Contents } from '../../core/editions/contents'
import type { Version } from '../../core/editions/contents'
import type { Site } from '../../core/site/site'
import { wexlowThings } from '../../demo/wexlow/things'
import { split } from '../../server/kinds/kinds'

export const wexlowVersions: Version[] = wexlowThings().map(({ kind, key, thing }, i) => ({
  kind,
  key,
  position: i + 1000,
  body: { id: key, ...split(kind, thing).body },
}))

export const wexlowSite: Site = new Contents(wexlowVersions, wexlowFrame).site
