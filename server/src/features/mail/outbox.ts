import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { type Transporter } from 'nodemailer';
import { type Subscription } from 'rxjs';
import { OWN_HEADER } from '@zawn/core/mail';
import { CONFIG } from '../../platform/config/tokens';
import { type Config } from '../../platform/config/config';
import { Database } from '../../platform/database/database';
import { type MailCopyRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { Organisation } from '../../kernel/organisation/organisation';
import { MailStandIn } from './mail-stand-in';

const AGAIN_MS = 30_000;
/** After a day of tries a copy is let go: it stands in Zawn anyway. */
const MOST_TRIES = 2880;
const AT_ONCE = 50;
const SENDER = { name: 'Zawn', address: 'zawn@localhost' };

/** Sends copies of notices by email. They are kept with the notices, so that a stop loses none. */
@Injectable()
export class Outbox implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(Outbox.name);
  private heard?: Subscription;
  private timer?: NodeJS.Timeout;
  private transport?: Transporter;
  private sending: Promise<void> = Promise.resolve();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly events: Events,
    private readonly standIn: MailStandIn,
  ) {}

  onApplicationBootstrap(): void {
    this.heard = this.events.stream.subscribe((objects) => {
      if (objects.includes('notice')) this.send();
    });
    this.timer = setInterval(() => this.send(), AGAIN_MS).unref();
    this.send();
  }

  async onModuleDestroy(): Promise<void> {
    this.heard?.unsubscribe();
    clearInterval(this.timer);
    await this.sending;
    this.transport?.close();
  }

  private send(): void {
    this.sending = this.sending
      .then(() => this.sendAll())
      .catch((error: unknown) => this.logger.warn(`Mail could not be sent: ${String(error)}`));
  }

  private async sendAll(): Promise<void> {
    const copies = this.database.reading.getRepository<MailCopyRow>('mailCopy');
    const waiting = await copies.find({ order: { tries: 'ASC', id: 'ASC' }, take: AT_ONCE });
    if (waiting.length === 0) return;
    const transport = await this.connection();
    const people = await this.organisation.people();
    for (const copy of waiting) {
      const to = people.find(({ id, active }) => id === copy.person && active);
      // Where there is no mail, or nobody any more, the notice in Zawn has to do.
      const isGone = !transport || !to || (await this.isSent(transport, to.email, copy));
      await this.database.writer.transaction((manager) =>
        isGone || copy.tries + 1 >= MOST_TRIES
          ? manager.delete('mailCopy', copy.id)
          : manager.update('mailCopy', copy.id, { tries: copy.tries + 1 }),
      );
    }
    if (waiting.length === AT_ONCE) this.send();
  }

  private async isSent(transport: Transporter, to: string, copy: MailCopyRow): Promise<boolean> {
    const { subject, path } = copy;
    const text = path === null ? copy.text : `${copy.text}\n\n${this.config.address}${path}`;
    const headers = { [OWN_HEADER]: 'notice', 'Auto-Submitted': 'auto-generated' };
    return transport.sendMail({ from: SENDER, to, subject, text, headers }).then(
      () => true,
      () => false,
    );
  }

  /** Loaded with the first mail: a server that sends none starts without it. */
  private async connection(): Promise<Transporter | undefined> {
    const { port } = this.standIn;
    const address = this.config.smtp ?? (port === undefined ? undefined : `smtp://127.0.0.1:${port}`);
    if (address === undefined) return undefined;
    this.transport ??= (await import('nodemailer')).createTransport(address);
    return this.transport;
  }
}
