import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { IsNull, LessThan } from 'typeorm';
import {
  systemActor,
  type AnyRecord,
  type Attachment,
  type MailArrival,
  type MailArrivalsPage,
  type MailOutcome,
  type RecordOf,
} from '@zawn/core';
import {
  answered,
  readSignature,
  suggestionsFrom,
  senderOf,
  threadOf,
  unwritten,
  writerOf,
  type Message,
  type Sender,
} from '@zawn/core/mail';
import { normaliseLongText } from '@zawn/core/validation';
import { Capture } from '../capture/capture';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type ArrivalRow } from '../../platform/database/rows';
import { earlierAnswer, once, type Asked } from '../../platform/database/once';
import { Events } from '../../platform/events/events';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door } from '../../kernel/records/door';
import { type Values } from '../../kernel/records/record-hooks';
import { type Unit } from '../../kernel/records/unit';
import { KeptFiles } from '../../kernel/files/kept-files';
import { MailReader } from './mail-reader';
import { type MailFile } from './parse-mail';

/** How a message came: to which capture address, and who is told when it cannot be delivered. */
export interface Envelope {
  /** null for a message that was dropped in as a file. */
  address: string | null;
  from: string;
}

type CaptureAddress = RecordOf<'captureAddress'> & { id: number; deletedAt: string | null };

/** Where a message belongs: the records it hangs on, and whose it is. */
interface Place {
  links: Values;
  owner: number;
  /** The record whose story it goes on. */
  on: { object: 'lead' | 'contact'; record: AnyRecord } | null;
}

const PAGE = 50;
/** Headers of which any message has at least one. */
const HEAD = ['from', 'subject', 'date', 'message-id', 'received'];
const LONGEST_NAME = 200;
/** What a message without a subject is called. */
const NO_SUBJECT = '(no subject)';

/** Takes in what is written to capture addresses: a new person becomes a lead, a known one’s story goes on. */
@Injectable()
export class MailIn {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly capture: Capture,
    private readonly files: KeptFiles,
    private readonly reader: MailReader,
    private readonly clock: Clock,
    private readonly events: Events,
  ) {}

  /** The capture address in use that a message to an address comes to; undefined when it is none. */
  async addressOf(address: string): Promise<CaptureAddress | undefined> {
    const found = await this.database.reading
      .getRepository<CaptureAddress>('captureAddress')
      .findOneBy({ address: address.trim().toLowerCase(), active: true, deletedAt: IsNull() });
    return found ?? undefined;
  }

  /**
   * Takes a message in. The same message again is the one that came before.
   * @throws Problem `malformed-request` when it is no message at all.
   */
  async take(raw: Uint8Array, envelope: Envelope, asked?: Asked): Promise<MailArrival> {
    const contentHash = createHash('sha256').update(raw).digest('hex');
    // What was sent is the content.
    const named = asked && { ...asked, contentHash: `${asked.contentHash} ${contentHash}` };
    const earlier = await earlierAnswer<{ value: MailArrival }>(this.database.reading.manager, named);
    if (earlier) return earlier.answer.value;
    const { message, files } = await this.reader.read(raw).catch(() => {
      throw new Problem('malformed-request', 'This is not an email that can be read. Nothing was kept.');
    });
    if (!HEAD.some((name) => message.headers.has(name)))
      throw new Problem('malformed-request', 'This is not an email: it has no head. Nothing was kept.');
    const said = message.messageId ?? `sha256:${contentHash}`;
    const earliest = await this.rows.findOneBy({ messageId: said });
    // An id that a program used twice is none: another message is kept as its own.
    const isOther =
      earliest !== null && earliest.file !== contentHash && !(await this.isSame(earliest, message));
    const messageId = isOther ? `${said}#${contentHash.slice(0, 16)}` : said;
    const before = isOther ? await this.rows.findOneBy({ messageId }) : earliest;
    if (before) return this.keep(before, named);
    const file = await this.files.keep(raw);
    const arrival: NewArrival = {
      at: this.clock.now(),
      messageId,
      sender: writerOf(message).address,
      subject: message.subject || NO_SUBJECT,
      address: envelope.address,
      outcome: 'timeline',
      why: null,
      file,
      mail: null,
      lead: null,
    };
    const aside = await this.setAside(message, envelope);
    if (aside) return this.keep({ ...arrival, ...aside }, named);
    const sender = senderOf(writerOf(message));
    if (!sender)
      return this.keep({ ...arrival, outcome: 'automatic', why: 'It does not say who sent it' }, named);
    return this.deliver(arrival, message, sender, envelope, await this.attachments(files), named);
  }

  /** What came in, newest first. */
  async arrivals(before?: number): Promise<MailArrivalsPage> {
    const rows = await this.rows.find({
      where: before ? { id: LessThan(before) } : {},
      order: { id: 'DESC' },
      take: PAGE + 1,
    });
    const page = rows.slice(0, PAGE);
    const mails = await this.gate.visible(
      systemActor,
      'mail',
      page.flatMap(({ mail }) => mail ?? []),
    );
    const arrivals = page.map((row) => ({ ...shown(row), on: storyOf(mails.get(Number(row.mail))) }));
    return { rows: arrivals, next: rows.length > PAGE ? arrivals[PAGE - 1].id : null };
  }

  /** Whether a message says what one that came before did; on its way it may have got other marks. */
  private async isSame(before: ArrivalRow, message: Message): Promise<boolean> {
    const isAlike =
      before.sender === writerOf(message).address && before.subject === (message.subject || NO_SUBJECT);
    if (!isAlike || before.mail === null) return isAlike;
    const [mail] = [...(await this.gate.visible(systemActor, 'mail', [before.mail])).values()];
    return mail === undefined || (mail.body ?? null) === normaliseLongText(message.text);
  }

  /** Where a message is kept as it came. */
  async original(id: number): Promise<string | undefined> {
    const row = await this.rows.findOneBy({ id });
    return row ? this.files.pathOf(row.file) : undefined;
  }

  private get rows() {
    return this.database.reading.getRepository<ArrivalRow>('arrival');
  }

  /** Why a message is nobody’s lead: no person wrote it, or one of us did. */
  private async setAside(
    message: Message,
    envelope: Envelope,
  ): Promise<{ outcome: MailOutcome; why: string } | undefined> {
    const mark = unwritten(message, envelope.address === null ? undefined : envelope.from);
    if (mark) return { outcome: mark.is, why: mark.why };
    const { address: from } = writerOf(message);
    // Who is written to again on the way forwards to themselves.
    const again = message.deliveredTo?.find((each) => each === envelope.address?.toLowerCase());
    if (again) return { outcome: 'loop', why: `It was delivered to ${again} before` };
    if (await this.addressOf(from)) return { outcome: 'loop', why: `${from} is a capture address itself` };
    const people = await this.organisation.people();
    const colleague = people.find(({ email }) => email.toLowerCase() === from);
    return colleague ? { outcome: 'colleague', why: `${colleague.name} works here` } : undefined;
  }

  private async attachments(files: readonly MailFile[]): Promise<Attachment[]> {
    const kept: Attachment[] = [];
    for (const { name, type, content } of files)
      kept.push({ name, type, size: content.length, hash: await this.files.keep(content) });
    return kept;
  }

  /** Keeps what came of a message, unless it came before. */
  private async keep(arrival: NewArrival, asked: Asked | undefined): Promise<MailArrival> {
    const { value } = await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), async () => {
        const before = await manager.findOneBy<ArrivalRow>('arrival', { messageId: arrival.messageId });
        if (before) return { value: shown(before) };
        const { identifiers } = await manager.insert('arrival', arrival);
        return { value: shown({ ...arrival, id: Number(identifiers[0].id) }) };
      }),
    );
    this.events.tell(new Set(['mail']));
    return value;
  }

  private async deliver(
    arrival: NewArrival,
    message: Message,
    sender: Sender,
    envelope: Envelope,
    attachments: readonly Attachment[],
    asked: Asked | undefined,
  ): Promise<MailArrival> {
    const address = envelope.address === null ? undefined : await this.addressOf(envelope.address);
    const { value } = await this.door.write(
      { actor: systemActor, through: 'mail', ...(asked ? { asked } : {}) },
      async (unit) => {
        const before = await unit.manager.findOneBy<ArrivalRow>('arrival', { messageId: arrival.messageId });
        if (before) return shown(before);
        const known = (await this.ofThread(unit, message)) ?? (await this.ofSender(unit, sender));
        const place = known ?? (await this.newLead(unit, message, sender, address));
        unit.label = `Email from ${sender.name}: ${arrival.subject}`.slice(0, 200);
        const mail = await unit.create(
          'mail',
          {
            subject: arrival.subject,
            direction: 'in',
            sender: sender.email,
            senderName: sender.name.slice(0, LONGEST_NAME),
            recipients: message.to.join(', ').slice(0, 2000) || null,
            sentAt: message.sentAt ?? unit.at,
            body: message.text || null,
            attachments: attachments.length > 0 ? JSON.stringify(attachments) : null,
            messageId: arrival.messageId,
            thread: threadOf(message) ?? arrival.messageId,
            owner: place.owner,
            ...place.links,
          },
          'feature',
          ['owner', ...Object.keys(place.links)],
        );
        if (known?.on && !uncertain(sender, envelope))
          await this.offerDetails(unit, known.on, message, sender, mail.id);
        if (known?.on) unit.tell(known.owner, 'mailArrived', known.on, arrival.subject);
        const row: NewArrival = {
          ...arrival,
          outcome: known ? 'timeline' : 'lead',
          why: uncertain(sender, envelope),
          mail: mail.id,
          lead: known ? null : Number(place.links.lead),
        };
        const { identifiers } = await unit.manager.insert('arrival', row);
        return shown({ ...row, id: Number(identifiers[0].id) });
      },
    );
    return value;
  }

  /** Offers what the sender’s signature says and the record does not, once for each. */
  private async offerDetails(
    unit: Unit,
    { object, record }: NonNullable<Place['on']>,
    message: Message,
    sender: Sender,
    mail: number,
  ): Promise<void> {
    const isTheirs = String(record.email).toLowerCase() === sender.email.toLowerCase();
    if (!isTheirs || (object === 'lead' && record.convertedAt !== null)) return;
    const { country } = await this.organisation.settings();
    for (const { field, value } of suggestionsFrom(
      record,
      readSignature(message.text, sender.name, country),
    )) {
      const same = { [object]: record.id, field, value, deletedAt: IsNull() };
      if ((await unit.manager.countBy('contactSuggestion', same)) > 0) continue;
      await unit.create(
        'contactSuggestion',
        { [object]: record.id, field, value, mail, state: 'open' },
        'feature',
      );
    }
  }

  /** Where the message belongs that this one answers. */
  private async ofThread(unit: Unit, message: Message): Promise<Place | undefined> {
    for (const messageId of answered(message)) {
      const mail = await unit.manager.findOneBy<AnyRecord & { deletedAt: string | null }>('mail', {
        messageId,
        deletedAt: IsNull(),
      });
      if (!mail) continue;
      const { lead, contact, account, deal } = mail;
      const object = contact === null ? 'lead' : 'contact';
      const id = mail[object];
      const record = typeof id === 'number' ? await unit.find(object, id).catch(() => undefined) : undefined;
      return {
        links: { lead, contact, account, deal },
        owner: Number(record?.owner ?? mail.owner),
        on: record ? { object, record } : null,
      };
    }
    return undefined;
  }

  /** Where someone’s mails go who is on file: to the contact, or else to the lead they are. */
  private async ofSender(unit: Unit, { email }: Sender): Promise<Place | undefined> {
    const [contact] = await this.gate.holding(systemActor, 'contact', 'email', [email], unit.manager);
    if (contact) return ofContact(contact);
    const leads = await this.gate.holding(systemActor, 'lead', 'email', [email], unit.manager);
    const lead = leads.findLast(({ convertedAt }) => convertedAt === null) ?? leads.at(-1);
    if (!lead) return undefined;
    const { contact: became, account, deal } = lead;
    const links: Values = { lead: lead.id, contact: became, account, deal };
    return { links, owner: Number(lead.owner), on: { object: 'lead', record: lead } };
  }

  private async newLead(
    unit: Unit,
    message: Message,
    sender: Sender,
    address: CaptureAddress | undefined,
  ): Promise<Place> {
    const { country } = await this.organisation.settings();
    const signed = readSignature(message.text, sender.name, country);
    const values: Values = {
      ...signed,
      name: sender.name.slice(0, LONGEST_NAME),
      email: sender.email,
      ...(sender.organisation ? { organisation: sender.organisation, web: sender.web ?? null } : {}),
      ...(message.subject ? { interest: message.subject.slice(0, LONGEST_NAME) } : {}),
      ...(address?.source ? { source: address.source } : {}),
    };
    const lead = await this.capture.arrive(unit, values, address ?? { to: 'rules', person: null });
    return { links: { lead: lead.id }, owner: Number(lead.owner), on: { object: 'lead', record: lead } };
  }
}

type NewArrival = Omit<ArrivalRow, 'id'>;

const ofContact = (record: AnyRecord): Place => ({
  links: { contact: record.id, account: record.account },
  owner: Number(record.owner),
  on: { object: 'contact', record },
});

/** The record on whose story an email stands. */
function storyOf(mail: AnyRecord | undefined): { object: 'lead' | 'contact'; id: number } | null {
  for (const object of ['contact', 'lead'] as const) {
    const id = mail?.[object];
    if (typeof id === 'number') return { object, id };
  }
  return null;
}

const domainOf = (address: string) => address.toLowerCase().split('@')[1] ?? '';

/** Anyone can write any name into the head of an email; where it really came from may tell. */
function uncertain({ email }: Sender, { from }: Envelope): string | null {
  if (from === '' || domainOf(from) === domainOf(email)) return null;
  return `Sent by way of ${from}: it may not be from ${email}`;
}

function shown({ messageId: _, file: __, ...arrival }: ArrivalRow): MailArrival {
  return arrival;
}
