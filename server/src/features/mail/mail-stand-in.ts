import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { type AddressInfo } from 'node:net';
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import { OWN_HEADER } from '@zawn/core/mail';
import { CONFIG } from '../../platform/config/tokens';
import { Clock } from '../../platform/clock/clock';
import { type Config, StartError } from '../../platform/config/config';
import { Database } from '../../platform/database/database';
import { type DeliveredRow } from '../../platform/database/rows';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { MailIn } from './mail-in';
import { MailReader } from './mail-reader';
import { LARGEST_MAIL } from './parse-mail';

const MOST_AT_ONCE = 20;
const SILENCE_MS = 60_000;
const MOST_RECIPIENTS = 20;

/** A refusal in the words of SMTP. */
const refusal = (code: number, sentence: string) =>
  Object.assign(new Error(sentence), { responseCode: code });

/**
 * Stands in for the organisation’s mail server, with real SMTP on this machine alone: takes what is written to
 * capture addresses, and delivers what Zawn writes to people here.
 */
@Injectable()
export class MailStandIn implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(MailStandIn.name);
  private server?: SMTPServer;
  /** Where it listens; undefined while it does not. */
  port?: number;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly mailIn: MailIn,
    private readonly reader: MailReader,
    private readonly organisation: Organisation,
    private readonly database: Database,
    private readonly clock: Clock,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const { mail } = this.config;
    if (!mail) return;
    this.server = new SMTPServer({
      name: 'zawn',
      banner: 'Mail stand-in',
      authOptional: true,
      disabledCommands: ['AUTH', 'STARTTLS'],
      disableReverseLookup: true,
      size: LARGEST_MAIL,
      maxClients: MOST_AT_ONCE,
      socketTimeout: SILENCE_MS,
      onRcptTo: ({ address }, session, done) => {
        this.mayReceive(address, session).then(() => done(), done);
      },
      onData: (stream, session, done) => {
        this.receive(stream, session).then(
          () => done(),
          (error: unknown) => done(asRefusal(error)),
        );
      },
    });
    this.server.on('error', (error) => this.logger.warn(`Mail: ${error.message}`));
    await this.listen(this.server, mail.port).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EADDRINUSE') throw error;
      const line = `Port ${mail.port} for mail is taken. Stop what uses it, or choose another with ZAWN_MAIL_PORT.`;
      if (mail.isChosen) throw new StartError(line);
      this.logger.warn(line);
    });
  }

  async onModuleDestroy(): Promise<void> {
    if (this.port !== undefined) await new Promise<void>((resolve) => this.server?.close(resolve));
  }

  private listen(server: SMTPServer, port: number): Promise<void> {
    return new Promise((resolve, reject) => {
      server.server.once('error', reject);
      server.listen(port, '127.0.0.1', () => {
        this.port = (server.server.address() as AddressInfo).port;
        resolve();
      });
    });
  }

  private async mayReceive(address: string, { envelope }: SMTPServerSession): Promise<void> {
    if (envelope.rcptTo.length >= MOST_RECIPIENTS) throw refusal(452, 'Too many recipients at once');
    if ((await this.mailIn.addressOf(address)) ?? (await this.colleague(address))) return;
    throw refusal(550, 'Nobody here has this address');
  }

  private async receive(stream: SMTPServerDataStream, { envelope }: SMTPServerSession): Promise<void> {
    const raw = await wholeOf(stream);
    const from = envelope.mailFrom ? envelope.mailFrom.address : '';
    for (const { address } of envelope.rcptTo) {
      const captured = await this.mailIn.addressOf(address);
      if (captured) await this.mailIn.take(raw, { address: captured.address, from });
      else await this.deliver(raw, address);
    }
  }

  /** Puts a message of Zawn’s own where its reader finds it. What others write to people here is let go. */
  private async deliver(raw: Uint8Array, address: string): Promise<void> {
    const { message } = await this.reader.read(raw);
    if (!message.headers.has(OWN_HEADER)) return;
    const row: Omit<DeliveredRow, 'id'> = {
      at: this.clock.now(),
      recipient: address.toLowerCase(),
      sender: message.from.address,
      subject: message.subject,
      text: message.text,
    };
    await this.database.writer.transaction((manager) => manager.insert('delivered', row));
  }

  private async colleague(address: string) {
    const people = await this.organisation.people();
    return people.find(({ email }) => email.toLowerCase() === address.toLowerCase());
  }
}

/** A message as it comes in; refused as soon as it is too large, the rest of it let go. */
function wholeOf(stream: SMTPServerDataStream): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    let chunks: Buffer[] = [];
    let bytes = 0;
    stream.on('data', (chunk: Buffer) => {
      bytes += chunk.length;
      if (bytes > LARGEST_MAIL) chunks = [];
      else chunks.push(chunk);
    });
    stream.on('error', reject);
    stream.on('end', () => {
      if (bytes > LARGEST_MAIL) reject(refusal(552, 'The message is larger than 25 MB'));
      else resolve(Buffer.concat(chunks));
    });
  });
}

/** What went wrong, for the other server: not again with this message, or again later. */
function asRefusal(error: unknown): Error {
  if (error instanceof Problem) return refusal(554, error.detail);
  if (error instanceof Error && 'responseCode' in error) return error;
  return refusal(451, 'It cannot be taken right now. Try again later.');
}
