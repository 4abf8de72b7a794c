import { entrance } from './entrance'

export const signUp = entrance('sign-up form', 'Becoming one of us, where one stands', 'It takes a minute.')
