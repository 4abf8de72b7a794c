/** Addresses the application answers itself: no page of the site can have them, and no gate stands before them. */
const own =
  /^\/(loft|api|walk|go|sign-in|sign-up|signed-up|sign-out|confirm|forgot|reset|pay|apply|join-firm|first-keeper|account\/(profile|address|do|buy|leave|data)|health|ready|metrics|_nuxt)(\/|$)/

export const isOwnAddress = (path: string) => own.test(path)
