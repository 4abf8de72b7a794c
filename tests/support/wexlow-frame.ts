/** What the demo's site is besides its things. */
export const wexlowFrame = {
  name: 'Wexlow Mill',
  timezone: 'Europe/Dublin',
  currency: 'EUR',
  locale: 'en-IE',
}
