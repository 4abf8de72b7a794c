import { appKind } from './app-kind'

export const menuItem = appKind({
  means: { open: 'its own gates let the item show; it still follows what it leads to.' },
  note: ({ follow }) => (follow === false ? 'on its own' : 'follows its page'),
})
