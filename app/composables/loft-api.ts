/** A refusal of the server: its code, its sentence, and what else it told. */
export class Refusal extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly extra: Record<string, unknown>,
  ) {
    super(message)
  }
}

/** Calls the console's routes. Throws `Refusal` for a problem, with code `offline` when nothing answered. */
export async function loftApi<T>(path: string, method = 'GET', body?: unknown): Promise<T> {
  const answer = await fetch(`/api/loft/${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  }).catch(() => null)
  if (!answer) throw new Refusal('offline', 'The server does not answer. What you typed is still here; try again.', {})
  if (answer.status === 204) return undefined as T
  const told = (await answer.json().catch(() => ({}))) as Record<string, unknown>
  if (answer.ok) return told as T
  const code =
    String(told.type ?? '')
      .split(':')
      .at(-1) ?? ''
  if (code === 'sign-in-needed')
    await navigateTo(`/sign-in?back=${encodeURIComponent(location.pathname)}`, { external: true })
  throw new Refusal(code, String(told.detail ?? told.title ?? 'That did not work.'), told)
}
