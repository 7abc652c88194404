import { createTransport } from 'nodemailer';
import { DEMO_MAIL_PORT } from '../platform/config/config';
import { sampleMails } from './sample-mails';

/** Sends the sample mails to the running demo, as another mail server would. */
async function main(): Promise<void> {
  const port = Number(process.env.ZAWN_MAIL_PORT ?? DEMO_MAIL_PORT);
  const transport = createTransport({ host: '127.0.0.1', port, ignoreTLS: true });
  for (const mail of sampleMails) {
    await transport.sendMail(mail);
    process.stdout.write(`Sent: ${mail.subject}\n`);
  }
  transport.close();
}

main().catch((error: NodeJS.ErrnoException) => {
  const line =
    error.code === 'ESOCKET' || error.code === 'ECONNREFUSED'
      ? 'Nothing takes mail there. Start the demo first, and say ZAWN_MAIL_PORT if it listens on another port.'
      : `The mail server said no: ${error.message}`;
  process.stderr.write(`${line}\n`);
  process.exit(1);
});
