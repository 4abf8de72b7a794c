/** Every page the application answers itself besides signing in and the first keeper. */
import { accountDeeds, addressPage, buyPage, joinFirmPage, leavePage, profilePage } from './account'
import { applyPage } from './application'
import { codesPage } from './codes'
import { confirmPage, forgotPage, resetPage, signedUpPage, signUpPage } from './entrance'
import type { OwnPage } from './own-page'
import { orderPage } from './order'
import { giftPage } from './gift'
import { invoicePage } from './invoice'
import { basketPage } from './basket'
import { payPage } from './pay'
import { tillPage } from './till'

export const ownPages: readonly OwnPage[] = [
  signUpPage,
  signedUpPage,
  confirmPage,
  forgotPage,
  resetPage,
  profilePage,
  addressPage,
  accountDeeds,
  buyPage,
  leavePage,
  joinFirmPage,
  payPage,
  basketPage,
  tillPage,
  orderPage,
  giftPage,
  invoicePage,
  applyPage,
  codesPage,
]

/** The page that answers an address, and what follows its own path. */
export function ownPageAt(path: string): { page: OwnPage; rest: string[] } | undefined {
  const page = ownPages.find(one => path === one.path || path.startsWith(`${one.path}/`))
  return page && { page, rest: path.slice(page.path.length).split('/').filter(Boolean) }
}
