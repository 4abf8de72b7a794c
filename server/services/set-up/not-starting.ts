/** Told to whoever starts the server, as it is. */
export class NotStarting extends Error {
  override name = 'NotStarting'
}
