/** An order as it is kept, and its own address. */
import type { shopOrder } from '../../db/schema'
import { siteAddress } from '../mail/mail'

export type OrderRow = typeof shopOrder.$inferSelect

/** Whoever has it looks at the order: told to the buyer, and to nobody of the staff. */
export const orderLink = ({ id }: Pick<OrderRow, 'id'>) => `${siteAddress()}/order/${id}`
