/** A stand-in for a mail server on loopback: it speaks SMTP and keeps what it is given, for staff to read. */
import type { AddressInfo } from 'node:net'
import { SMTPServer } from 'smtp-server'
import type { AnyDb } from '../../db/database'
import { mailKept } from '../../db/schema'
import { logFault } from '../../log'

/** Starts on a free port, or the one given; answers its address and how to stop it. */
export async function startMailStandIn(database: () => AnyDb, on = 0): Promise<{ url: string; stop(): Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: 10_000_000,
    logger: false,
    onData: (stream, session, done) => {
      // Read with the first mail: it takes a while, and a server that starts waits for nothing it may never need.
      import('mailparser')
        .then(({ simpleParser }) => simpleParser(stream))
        .then(async mail => {
          const sender = session.envelope.mailFrom ? session.envelope.mailFrom.address : ''
          for (const { address } of session.envelope.rcptTo)
            await database()
              .insert(mailKept)
              .values({
                sender,
                recipient: address,
                subject: mail.subject ?? '',
                plain: mail.text ?? '',
                html: typeof mail.html === 'string' ? mail.html : '',
              })
          done()
        }, done)
        .catch(done)
    },
  })
  server.on('error', error => logFault('mail stand-in', error))
  await new Promise<void>(resolve => server.listen(on, '127.0.0.1', resolve))
  const { port } = server.server.address() as AddressInfo
  return { url: `smtp://127.0.0.1:${port}`, stop: () => new Promise(resolve => server.close(() => resolve())) }
}
