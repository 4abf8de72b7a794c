/** What a member's home says after something was done, by the name of the deed. */
export const saidAfter: Record<string, string> = {
  paid: 'Thank you, it is paid. What you bought opens now.',
  'paid-later': 'Thank you. The payment takes a moment; what you bought opens when it has come.',
  booked: 'Booked: the change comes at the end of what you have paid.',
  'stop-renewal': 'It ends with what you have paid, and does not go on by itself.',
  renew: 'It goes on by itself again.',
  'end-session': 'That browser is signed out.',
  'end-others': 'All other browsers are signed out.',
  'firm-invite': 'The invitation is on its way.',
  'firm-revoke': 'The invitation is taken back: its link works no more.',
  'firm-remove': 'They do not belong to the firm any more.',
  'firm-joined': 'You belong to the firm now: what it holds is yours too.',
  applied: 'Your application waits to be looked at. You hear from us.',
}
