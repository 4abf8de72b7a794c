/** What somebody did, in words that follow their name and come before the thing. */
export const activityVerbs: Record<string, string> = {
  signIn: 'signed in',
  signInFailed: 'failed to sign in',
  signUp: 'signed up',
  member: 'became a member',
  view: 'saw',
  download: 'took',
  click: 'followed',
  refused: 'was refused at',
  purchase: 'bought',
  staff: 'changed',
}
