/** What an entry or a link does for those who may not follow it. */
export const refusedWords = {
  hide: 'is not there',
  locked: 'stands without its link',
  show: 'stands as it is',
} as const
