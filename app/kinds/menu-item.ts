import { appKind } from './app-kind'

export const menuItem = appKind({
  note: ({ follow }) => (follow === false ? 'on its own' : 'follows its page'),
})
