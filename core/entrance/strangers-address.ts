/** Where a made-up stranger has their mail. No mail is ever delivered below `.invalid` (RFC 2606, section 2). */
export const strangerDomain = 'stranger.invalid'
export const isStrangersAddress = (email: string): boolean => email.toLowerCase().endsWith(`@${strangerDomain}`)
