/** By what it is known which secret an installation has. */
import { hashOf } from '../secrets/tokens'

/** The settings it stands among. */
export const installationGroup = 'installation'
export const secretHash = (secret: string): string => hashOf(`installation ${secret}`)
