import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import Joi from 'joi';
import { IsNull, Not, type EntityManager } from 'typeorm';
import { type Actor, type Colleague } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type CredentialRow } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { hashOf } from './secrets';

const SHORTEST = 10;

/** A password that somebody chooses, as it comes in a request. */
export const newPassword = Joi.string()
  .min(SHORTEST)
  .max(200)
  .required()
  .label('Password')
  .messages({ 'string.min': `Password needs at least ${SHORTEST} characters` });

/** argon2id with the package's defaults (19 MiB, two passes). */
export const hashPassword = (password: string) => hash(password);

/** The shipped list of passwords that everybody tries first; read when somebody chooses one. */
async function isCommon(password: string): Promise<boolean> {
  const { dictionary } = await import('@zxcvbn-ts/language-common');
  return (dictionary['passwords-common'] as readonly string[]).includes(password.toLowerCase());
}

/** What a password must not be made of: whoever knows the person would try these. */
const tellTales = ({ name, email }: Pick<Colleague, 'name' | 'email'>, organisation: string) =>
  [email, email.split('@')[0], name, organisation].map((text) => text.toLowerCase().replace(/\s/g, ''));

/**
 * Refuses a password that is easily guessed.
 * @param field where it stands in the request.
 * @throws Problem `invalid-input` that says why.
 */
export async function refuseWeak(
  password: string,
  person: Pick<Colleague, 'name' | 'email'>,
  organisation: string,
  field = 'password',
): Promise<void> {
  const plain = password.toLowerCase().replace(/\s/g, '');
  const fault = tellTales(person, organisation).includes(plain)
    ? 'Password is your name, your email or the organisation’s name. Choose another'
    : new Set(plain).size < 4
      ? 'Password repeats the same few characters. Choose another'
      : (await isCommon(password))
        ? 'Password is one of those that are tried first. Choose another'
        : undefined;
  if (fault) throw invalidInput([{ field, message: fault }]);
}

/** Passwords: kept as hashes, checked when chosen; a new one ends every other session. */
@Injectable()
export class Passwords {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
  ) {}

  /** @throws Problem `invalid-input` when it is easily guessed. */
  async refuseWeak(password: string, person: Pick<Colleague, 'name' | 'email'>): Promise<void> {
    await refuseWeak(password, person, (await this.organisation.settings()).name);
  }

  /** Whether a password is a person's. */
  async isRight(person: number, password: string): Promise<boolean> {
    const { manager } = this.database.reading;
    const credential = await manager.findOneBy<CredentialRow>('credential', { person });
    return credential !== null && verify(credential.hash, password);
  }

  /**
   * Changes one's own password. The session that asks goes on, all others end.
   * @throws Problem `invalid-input` when the present one is wrong or the new one is easily guessed.
   */
  async change(actor: Actor, present: string, next: string, sessionToken: string): Promise<void> {
    const person = (await this.organisation.people()).find(({ id }) => id === actor.personId);
    if (!person) throw new Problem('not-allowed', 'This person can no longer sign in.');
    if (!(await this.isRight(person.id, present)))
      throw invalidInput([{ field: 'present', message: 'This is not your present password' }]);
    await this.refuseWeak(next, person);
    const hashed = await hashPassword(next);
    await this.database.writer.transaction((manager) =>
      keepPassword(manager, person.id, hashed, hashOf(sessionToken)),
    );
  }
}

/** Keeps a password, and ends the person's sessions but one. */
export async function keepPassword(
  manager: EntityManager,
  person: number,
  hashed: string,
  exceptSession?: string,
): Promise<void> {
  await manager.upsert<CredentialRow>('credential', { person, hash: hashed }, ['person']);
  await manager.delete('session', {
    person,
    ...(exceptSession === undefined ? {} : { tokenHash: Not(exceptSession) }),
  });
  // A link that lay about would set it anew.
  await manager.delete('passwordLink', { person, usedAt: IsNull() });
}
