/** Every action of the console, by method and address below /api/loft. */
import { activityActions } from './activity'
import { arrangeActions } from './arrange'
import { bringSiteActions } from './bring-site'
import { doorActions } from './door'
import { editionActions } from './editions'
import { factActions } from './facts'
import { fileActions } from './files'
import { firmActions } from './firms'
import { folderActions } from './folder'
import { mailActions } from './mail'
import { peopleActions } from './people'
import { pictureActions } from './pictures'
import { settingActions } from './settings'
import { orderActions } from './orders'
import { shopActions } from './shop'
import { staffActions } from './staff'
import { thingActions } from './things'

export const actions = {
  ...editionActions,
  ...thingActions,
  ...arrangeActions,
  ...folderActions,
  ...bringSiteActions,
  ...pictureActions,
  ...fileActions,
  ...peopleActions,
  ...firmActions,
  ...factActions,
  ...staffActions,
  ...settingActions,
  ...doorActions,
  ...mailActions,
  ...shopActions,
  ...orderActions,
  ...activityActions,
}
export type Actions = typeof actions
export type ActionName = keyof Actions

/** What each takes, for whoever looks through the rights; by method and whole address. */
export const actionRights = Object.fromEntries(
  Object.entries(actions).map(([name, { right }]) => [name.replace(' ', ' /api/loft/'), right]),
)
