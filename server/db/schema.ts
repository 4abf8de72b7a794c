/** Everything Bravik keeps. Rules and things are versioned rows; people and all that is counted by the day are relational. */
export * from './schema/site'
export * from './schema/people'
export * from './schema/shop'
export * from './schema/orders'
export * from './schema/payments'
export * from './schema/files'
export * from './schema/mail'
export * from './schema/search'
