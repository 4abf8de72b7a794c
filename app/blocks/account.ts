import type { AppBlock } from './app-block'

export const account: AppBlock = {
  name: 'way in and out',
  says: 'Who is signed in, and the way out; for others the way in.',
  unheaded: true,
  fields: [],
}
