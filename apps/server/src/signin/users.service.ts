import { Inject, Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Role, UserView } from '@underpass/contracts';
import { DataSource, type Repository } from 'typeorm';
import { CONFIG, type Config } from '../config.js';
import { AppUser } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { ProblemError } from '../problems/problem.js';
import { factorUri, hashSpareCode, newFactorSecret, newSpareCodes, factorStep } from './factor.js';
import { faultOfPassword } from './passwordStrength.js';
import { Secrets } from '../secrets/secrets.js';
import { hashPassword, SessionService } from './session.service.js';

const weak = (field: string, problem: string) =>
  new ProblemError(422, 'Not valid', `The password ${problem}`, [{ field, problem: `The password ${problem}` }]);

/** Who may sign in, as what, and with what. */
@Injectable()
export class UsersService {
  private readonly secrets: Secrets;

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly sessions: SessionService,
    @Inject(CONFIG) config: Config,
  ) {
    this.secrets = new Secrets(config.secretKey);
  }

  private get all() {
    return this.data.getRepository(AppUser);
  }

  async list(): Promise<UserView[]> {
    const users = await this.all.find({ order: { email: 'ASC' } });
    return users.map((user) => ({
      id: user.id,
      email: user.email,
      name: user.name,
      role: user.role,
      factor: user.factorSecret !== null,
      throughProvider: user.provider !== null,
    }));
  }
  one(id: string): Promise<AppUser | null> {
    return this.all.findOneBy({ id });
  }
  count(): Promise<number> {
    return this.all.count();
  }

  /** Adds a user; one who is there already stays as they are. @returns whether one was added */
  async add(email: string, name: string, role: Role, password: string, demo = false): Promise<boolean> {
    if (!demo) {
      const fault = faultOfPassword(password, [email, name, 'underpass']);
      if (fault) throw weak('password', fault);
    }
    if (await this.all.findOneBy({ email })) return false;
    const user = { ...blank, id: uuidV7(), email, name, role, demo, passwordHash: await hashPassword(password) };
    const { raw } = await this.all.createQueryBuilder().insert().values(user).orIgnore().returning('id').execute();
    return (raw as object[]).length > 0;
  }

  /** The user of the organisation's provider, made at their first sign-in; name and role follow the provider. */
  async provided(provider: string, email: string, name: string, role: Role): Promise<AppUser> {
    const known = await this.all.findOneBy({ provider });
    if (known) {
      if (known.name !== name || known.role !== role) {
        await this.all.update({ id: known.id }, { name, role });
        await this.sessions.tell(known.id);
      }
      return { ...known, name, role };
    }
    if (await this.all.findOneBy({ email })) throw new ProblemError(409, 'In use', `${email} signs in with a password here already.`);
    const user: AppUser = { ...blank, id: uuidV7(), email, name, role, demo: false, passwordHash: null, provider };
    await this.all.insert(user);
    return user;
  }

  /** @throws ProblemError 403 where who asks is no administrator any more */
  async changeRole(by: string, id: string, role: Role): Promise<void> {
    await this.asAdmin(by, (users) => users.update({ id }, { role }));
    await this.sessions.tell(id);
  }

  /** Removes a user and, with them, their sessions. @throws ProblemError as changeRole does */
  async remove(by: string, id: string): Promise<boolean> {
    const { affected } = await this.asAdmin(by, (users) => users.delete({ id }));
    await this.sessions.tell(id);
    return (affected ?? 0) > 0;
  }

  /**
   * Writes while who asks is an administrator and stays one until it is written: of two who take each other's role at the same instant
   * the second is refused, so that one is always left.
   */
  private asAdmin<T>(by: string, write: (users: Repository<AppUser>) => Promise<T>): Promise<T> {
    return this.data.transaction(async (manager) => {
      const users = manager.getRepository(AppUser);
      // all of them, in one order: two who ask for each other would wait for each other
      const admins = await users.find({ where: { role: 'admin' }, order: { id: 'ASC' }, lock: { mode: 'pessimistic_write' } });
      if (!admins.some(({ id }) => id === by))
        throw new ProblemError(403, 'Not yours any more', 'You are no longer an administrator; nothing was changed.');
      return write(users);
    });
  }

  async changePassword(user: AppUser, next: string): Promise<void> {
    const fault = faultOfPassword(next, [user.email, user.name, 'underpass']);
    if (fault) throw weak('next', fault);
    await this.all.update({ id: user.id }, { passwordHash: await hashPassword(next), demo: false });
  }

  offerFactor(email: string): { secret: string; uri: string } {
    const secret = newFactorSecret();
    return { secret, uri: factorUri(secret, email) };
  }

  /** Takes a factor on once a first code of it is right. @returns the spare codes, shown this once */
  async setUpFactor(userId: string, secret: string, code: string): Promise<string[]> {
    const step = factorStep(secret, code, Date.now(), 0);
    if (step === null)
      throw new ProblemError(
        422,
        'Not valid',
        'This code does not fit. Check that the clock of the device is right, and give the code it shows now.',
        [{ field: 'code', problem: 'does not fit; give the code that is shown now' }],
      );
    const codes = newSpareCodes();
    await this.all.update(
      { id: userId },
      { factorSecret: this.secrets.seal(secret), factorStep: String(step), spareCodes: codes.map(hashSpareCode) },
    );
    await this.sessions.tell(userId);
    return codes;
  }

  async newSpareCodes(userId: string): Promise<string[]> {
    const codes = newSpareCodes();
    await this.all.update({ id: userId }, { spareCodes: codes.map(hashSpareCode) });
    return codes;
  }

  async removeFactor(userId: string): Promise<void> {
    await this.all.update({ id: userId }, { factorSecret: null, factorStep: '0', spareCodes: [] });
    await this.sessions.tell(userId);
  }

  /** Where the demo is not served nobody may use what is published with it. */
  async endDemoSessions(): Promise<void> {
    await this.data.query('DELETE FROM app_session WHERE user_id IN (SELECT id FROM app_user WHERE demo)');
  }
}

const blank = { provider: null, factorSecret: null, factorStep: '0', spareCodes: [] };
