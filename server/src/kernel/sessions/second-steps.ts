import { randomInt } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { IsNull, Not, type EntityManager } from 'typeorm';
import { type NewSecondStep, type SignInWay } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { once, type Asked } from '../../platform/database/once';
import { type SecondStepRow } from '../../platform/database/rows';
import { invalidInput, Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { hashOf } from './secrets';

/** Seconds that a code stands for, and how many steps a device's clock may be off either way (RFC 6238, 5.2). */
const STEP_SECONDS = 30;
const DRIFT_STEPS = 1;
/** 160 bits, as RFC 4226 recommends. */
const SECRET_BYTES = 20;
const RECOVERY_CODES = 8;
const RECOVERY_LENGTH = 10;
/** Letters and digits that nobody takes for another. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

const newRecoveryCode = () =>
  Array.from({ length: RECOVERY_LENGTH }, () => LETTERS[randomInt(LETTERS.length)])
    .join('')
    .replace(/^(.{5})/, '$1-');

const asTyped = (code: string) => code.toLowerCase().replace(/\s/g, '');

const wrongCode = () =>
  invalidInput([
    { field: 'code', message: 'This code is not right, or was used already. Enter the next one' },
  ]);

/**
 * The second step of a sign-in: a code of six digits that changes every half minute (TOTP, RFC 6238), or one of the
 * recovery codes, each of which opens once.
 */
@Injectable()
export class SecondSteps {
  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
    private readonly organisation: Organisation,
  ) {}

  /** Whether a person has to show a code. */
  async isOn(person: number): Promise<boolean> {
    return this.database.reading.manager.existsBy<SecondStepRow>('secondStep', {
      person,
      confirmedAt: Not(IsNull()),
    });
  }

  /** Whether a role of a person asks for a second step that they have not set up. */
  async isOwed(person: number): Promise<boolean> {
    return (await this.organisation.asksForSecondStep(person)) && !(await this.isOn(person));
  }

  /** How many recovery codes a person has left. */
  async recoveryCodesLeft(person: number): Promise<number> {
    const row = await this.database.reading.manager.findOneBy<SecondStepRow>('secondStep', { person });
    return row?.confirmedAt ? (JSON.parse(row.recovery) as string[]).length : 0;
  }

  /**
   * Sets up a second step, which is asked for once a first code has come.
   * @throws Problem `conflict` when there is one already.
   */
  async begin(person: number, email: string): Promise<NewSecondStep> {
    const { authenticator } = await import('otplib');
    const { toString } = await import('qrcode');
    const secret = authenticator.generateSecret(SECRET_BYTES);
    const row: SecondStepRow = { person, secret, confirmedAt: null, lastStep: 0, recovery: '[]' };
    await this.database.writer.transaction(async (manager) => {
      if (await manager.existsBy<SecondStepRow>('secondStep', { person, confirmedAt: Not(IsNull()) }))
        throw new Problem('conflict', 'You have a second step already. Take it off first.');
      await manager.upsert('secondStep', row, ['person']);
    });
    const address = authenticator.keyuri(email, 'Zawn', secret);
    return { secret, picture: await toString(address, { type: 'svg', margin: 0 }) };
  }

  /**
   * Turns the second step on.
   * @returns the recovery codes, which are shown once.
   * @throws Problem `invalid-input` when the code is not right.
   */
  async confirm(person: number, code: string, now = Date.now()): Promise<string[]> {
    const codes = Array.from({ length: RECOVERY_CODES }, newRecoveryCode);
    await this.database.writer.transaction(async (manager) => {
      const row = await manager.findOneBy<SecondStepRow>('secondStep', { person, confirmedAt: IsNull() });
      if (!row) throw new Problem('conflict', 'Nothing is being set up. Begin again.');
      const step = await stepOf(row, code, now);
      if (step === undefined) throw wrongCode();
      await manager.update('secondStep', person, {
        confirmedAt: this.clock.now(),
        lastStep: step,
        recovery: JSON.stringify(codes.map(hashOf)),
      });
    });
    return codes;
  }

  /**
   * Looks at a code that somebody shows, and sees to it that it opens nothing a second time.
   * @returns the way it opens; undefined when it does not.
   */
  async use(person: number, code: string, now = Date.now()): Promise<SignInWay | undefined> {
    return this.database.writer.transaction(async (manager) => {
      const row = await manager.findOneBy<SecondStepRow>('secondStep', {
        person,
        confirmedAt: Not(IsNull()),
      });
      if (!row) return undefined;
      const step = await stepOf(row, code, now);
      if (step === undefined) return useRecoveryCode(manager, row, code);
      await manager.update('secondStep', person, { lastStep: step });
      return 'password';
    });
  }

  /** Takes a person's second step off. */
  async remove(person: number, asked?: Asked): Promise<void> {
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), () => manager.delete('secondStep', { person })),
    );
  }
}

/** The time step a code is of; undefined when it is not right, or not later than the last that opened. */
async function stepOf(
  { secret, lastStep }: SecondStepRow,
  code: string,
  now: number,
): Promise<number | undefined> {
  const digits = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(digits)) return undefined;
  const { authenticator } = await import('otplib');
  const present = Math.floor(now / 1000 / STEP_SECONDS);
  for (let step = present - DRIFT_STEPS; step <= present + DRIFT_STEPS; step += 1) {
    if (step <= lastStep) continue;
    const epoch = step * STEP_SECONDS * 1000;
    if (authenticator.clone({ epoch }).generate(secret) === digits) return step;
  }
  return undefined;
}

async function useRecoveryCode(
  manager: EntityManager,
  { person, recovery }: SecondStepRow,
  code: string,
): Promise<SignInWay | undefined> {
  const left = JSON.parse(recovery) as string[];
  const hash = hashOf(asTyped(code));
  if (!left.includes(hash)) return undefined;
  await manager.update('secondStep', person, {
    recovery: JSON.stringify(left.filter((each) => each !== hash)),
  });
  return 'recoveryCode';
}
