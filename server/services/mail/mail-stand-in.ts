/** A stand-in for a mail server on loopback: it speaks SMTP and keeps what it is given, for staff to read. */
import type { AddressInfo } from 'node:net'
import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import type { Database } from '../../db/database'
import { mailKept } from '../../db/schema'

/** Starts on a free port; answers its address and how to stop it. */
export async function startMailStandIn(db: Database): Promise<{ url: string, stop(): Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true, disabledCommands: ['STARTTLS', 'AUTH'], size: 10_000_000, logger: false,
    onData: (stream, session, done) => {
      simpleParser(stream).then(async (mail) => {
        const sender = session.envelope.mailFrom ? session.envelope.mailFrom.address : ''
        for (const { address } of session.envelope.rcptTo) await db.insert(mailKept).values({ sender, recipient: address, subject: mail.subject ?? '', plain: mail.text ?? '', html: typeof mail.html === 'string' ? mail.html : '' })
        done()
      }, done).catch(done)
    },
  })
  server.on('error', error => console.error('mail stand-in:', error.message))
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.server.address() as AddressInfo
  return { url: `smtp://127.0.0.1:${port}`, stop: () => new Promise(resolve => server.close(() => resolve())) }
}
