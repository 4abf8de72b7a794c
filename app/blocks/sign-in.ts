import { entrance } from './entrance'

export const signIn = entrance('sign-in form', 'The way in, where one stands', 'For whoever is one of us already.')
