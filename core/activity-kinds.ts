/** What people do that is written down, in the order in which charts offer it. A word forgotten for one does not compile. */
export const activityKinds = [
  'view',
  'refused',
  'signIn',
  'signInFailed',
  'came',
  'stopped',
  'signUp',
  'member',
  'click',
  'purchase',
  'download',
  'staff',
] as const
export type ActivityKind = (typeof activityKinds)[number]
