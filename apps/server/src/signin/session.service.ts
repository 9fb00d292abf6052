import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { hash, verify } from '@node-rs/argon2';
import type { OwnSession, Role } from '@underpass/contracts';
import type { Subscription } from 'rxjs';
import { DataSource } from 'typeorm';
import { CONFIG, isOwnMachine, type Config } from '../config.js';
import { AppSession, AppUser } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { factorStep, hashSpareCode } from './factor.js';
import { Patience } from './patience.service.js';
import { RulesService } from './rules.service.js';
import { Secrets } from '../secrets/secrets.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { hashToken, newToken } from '../secrets/tokens.js';
import { Channel } from '../events/channel.service.js';

export interface SignedIn {
  id: string;
  name: string;
  email: string;
  role: Role;
  sessionId: string;
  confirmedAtMs: number;
  /** Their role asks for a second factor and they have none: nothing else is open to them. */
  mustSetUpFactor: boolean;
  throughProvider: boolean;
}
/** Where a sign-in comes from. */
export interface Visitor {
  address: string;
  device: string;
  /** What this browser keeps from an earlier sign-in of the same person. */
  known: string | undefined;
}
export type SignInResult =
  | { token: string; user: SignedIn; known: string }
  | { waitS: number }
  | { refused: 'wrong' | 'code needed' | 'code wrong' };

const sessionHours = 12;
const knownDays = 180;
/** Others' edits of rights count after this long, ms. */
const rememberedMs = 5000;
const mostSessionsOfOne = 50;
/** argon2id at the first recommended setting of RFC 9106 §4 scaled to small servers: 19 MiB, 2 passes. */
const argon = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Checked where nobody has the address, so that the time tells nothing. */
const nobody = hash('nobody has this password', argon);
export const hashPassword = (password: string): Promise<string> => hash(password, argon);

@Injectable()
export class SessionService implements OnModuleDestroy {
  private readonly known = new Map<string, { user: SignedIn; until: number }>();
  private readonly secrets: Secrets;
  private readonly heard: Subscription;

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly channel: Channel,
    private readonly patience: Patience,
    private readonly rules: RulesService,
    private readonly log: SecurityLog,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    this.secrets = new Secrets(config.secretKey);
    // what another server took away is taken away here too
    this.heard = channel.told.subscribe(({ type }) => {
      if (type === 'sessions') this.known.clear();
    });
  }

  onModuleDestroy(): void {
    this.heard.unsubscribe();
  }

  /** A published password is good where the demo is served to its own machine, and nowhere else. */
  private mayUse(user: AppUser): boolean {
    return !user.demo || (this.config.demoFolder !== null && isOwnMachine(this.config.host));
  }

  /** Judges a sign-in. Wrong tries slow the next ones down, for the account and for the address. */
  async signIn(email: string, password: string, code: string | undefined, visitor: Visitor): Promise<SignInResult> {
    const user = await this.data.getRepository(AppUser).findOneBy({ email });
    // a browser they signed in with before is not held up by what others try elsewhere
    const own = user !== null && this.isKnown(visitor.known, user.id);
    const [kind, what] = own ? (['device', visitor.known as string] as const) : (['account', email] as const);
    const waitS = (own ? 0 : await this.patience.take('address', visitor.address)) || (await this.patience.take(kind, what));
    if (waitS > 0) return { waitS };
    const right = await verify(user?.passwordHash ?? (await nobody), password);
    const refuse = async (refused: 'wrong' | 'code needed' | 'code wrong'): Promise<SignInResult> => {
      if (refused !== 'code needed')
        await this.log.record('sign-in refused', {
          ...(user ? { user } : { who: email.slice(0, 100) }),
          address: visitor.address,
          about: refused === 'wrong' ? 'address or password not right' : 'code not right',
        });
      return { refused };
    };
    if (!user || !right || user.passwordHash === null || !this.mayUse(user)) return refuse('wrong');
    if (user.factorSecret !== null) {
      if (code === undefined) {
        // not a right try either: it must not wipe out wrong codes, or whoever has the password could try them all
        await this.patience.giveBack('address', visitor.address);
        await this.patience.giveBack(kind, what);
        return refuse('code needed');
      }
      if (!(await this.codeIsRight(user, code, visitor.address))) return refuse('code wrong');
    }
    await this.patience.right('address', visitor.address);
    await this.patience.right(kind, what);
    return this.begin(user, visitor);
  }

  /** Opens a session for somebody who has shown who they are. */
  async begin(
    user: AppUser,
    visitor: Visitor,
    provider: { session: string | null; token: string } | null = null,
  ): Promise<{ token: string; user: SignedIn; known: string }> {
    const token = newToken();
    const now = new Date();
    const session: AppSession = {
      tokenHash: hashToken(token),
      id: uuidV7(),
      userId: user.id,
      createdAt: now,
      expiresAt: new Date(now.getTime() + sessionHours * 3_600_000),
      usedAt: now,
      confirmedAt: now,
      address: visitor.address,
      device: visitor.device,
      providerSession: provider?.session ?? null,
      providerToken: provider === null ? null : this.secrets.seal(provider.token),
    };
    await this.data.getRepository(AppSession).insert(session);
    await this.data.query(
      `DELETE FROM app_session WHERE expires_at < now() OR token_hash IN
         (SELECT token_hash FROM app_session WHERE user_id = $1 ORDER BY used_at DESC OFFSET $2)`,
      [user.id, mostSessionsOfOne],
    );
    await this.log.record('signed in', { user, address: visitor.address, about: visitor.device });
    return { token, user: await this.view(user, session), known: this.rememberBrowser(user.id) };
  }

  private async view(user: AppUser, session: AppSession): Promise<SignedIn> {
    const { factorFor } = await this.rules.get();
    const throughProvider = session.providerToken !== null;
    return {
      id: user.id,
      name: user.name,
      email: user.email,
      role: user.role,
      sessionId: session.id,
      confirmedAtMs: session.confirmedAt.getTime(),
      mustSetUpFactor: !throughProvider && user.factorSecret === null && factorFor.includes(user.role),
      throughProvider,
    };
  }

  private rememberBrowser(userId: string): string {
    const text = `${userId}.${Date.now() + knownDays * 86_400_000}.${newToken()}`;
    return `${text}.${this.secrets.sign(text)}`;
  }
  private isKnown(kept: string | undefined, userId: string): boolean {
    const [id, until, random, signature] = (kept ?? '').split('.');
    return id === userId && Number(until) > Date.now() && this.secrets.signed(`${id}.${until}.${random}`, signature ?? '');
  }

  /** Whether a code is right now, or a spare one is left; either is used up by it. */
  async codeIsRight(user: AppUser, code: string, address: string): Promise<boolean> {
    if (/^\d{6}$/.test(code)) {
      const secret = user.factorSecret === null ? null : this.secrets.open(user.factorSecret);
      const step = secret === null ? null : factorStep(secret, code, Date.now(), Number(user.factorStep));
      if (step === null) return false;
      // of two at the same moment one finds it taken
      const [, taken] = (await this.data.query('UPDATE app_user SET factor_step = $2 WHERE id = $1 AND factor_step < $2', [
        user.id,
        step,
      ])) as [unknown, number];
      return taken === 1;
    }
    const [, used] = (await this.data.query(
      'UPDATE app_user SET spare_codes = array_remove(spare_codes, $2) WHERE id = $1 AND $2 = ANY(spare_codes)',
      [user.id, hashSpareCode(code)],
    )) as [unknown, number];
    if (used === 1) await this.log.record('spare code used', { user, address });
    return used === 1;
  }

  /**
   * Who a token belongs to. Remembered for a few seconds, so that a page's burst of requests asks the database once.
   * @param active whether a person did something; what a page fetches by itself does not keep a session open
   */
  async who(token: string, active: boolean): Promise<SignedIn | null> {
    const tokenHash = hashToken(token);
    const known = this.known.get(tokenHash);
    if (known && known.until > Date.now()) return known.user;
    const session = await this.data.getRepository(AppSession).findOneBy({ tokenHash });
    if (!session) return null;
    const { idleMinutes } = await this.rules.get();
    const user = await this.data.getRepository(AppUser).findOneBy({ id: session.userId });
    const idle = Date.now() - session.usedAt.getTime() > idleMinutes * 60_000;
    if (!user || !this.mayUse(user) || idle || session.expiresAt < new Date()) {
      await this.data.getRepository(AppSession).delete({ tokenHash });
      if (user && idle)
        await this.log.record('session ended', { user, address: session.address, about: `idle for ${idleMinutes} minutes` });
      return null;
    }
    if (active && Date.now() - session.usedAt.getTime() > rememberedMs)
      await this.data.query('UPDATE app_session SET used_at = now() WHERE token_hash = $1', [tokenHash]);
    const signedIn = await this.view(user, session);
    if (this.known.size > 1000) this.known.clear();
    // what a page fetches by itself must not hide that somebody works: only their own doing is remembered
    if (active) this.known.set(tokenHash, { user: signedIn, until: Date.now() + rememberedMs });
    return signedIn;
  }

  async sessionOf(token: string): Promise<AppSession | null> {
    return this.data.getRepository(AppSession).findOneBy({ tokenHash: hashToken(token) });
  }
  providerToken(session: AppSession): string | null {
    return session.providerToken === null ? null : this.secrets.open(session.providerToken);
  }

  async own(userId: string, currentId: string): Promise<OwnSession[]> {
    const rows = await this.data.getRepository(AppSession).find({ where: { userId }, order: { usedAt: 'DESC' } });
    return rows.map((row) => ({
      id: row.id,
      device: row.device,
      address: row.address,
      createdAt: row.createdAt.toISOString(),
      usedAt: row.usedAt.toISOString(),
      current: row.id === currentId,
    }));
  }

  /** Ends sessions; what they have open closes on every server. */
  async end(where: 'token_hash' | 'id' | 'user_id' | 'provider_session', value: string, except: string | null = null): Promise<number> {
    const [rows] = (await this.data.query(
      `DELETE FROM app_session WHERE ${where} = $1 AND ($2::uuid IS NULL OR id <> $2) RETURNING user_id`,
      [value, except],
    )) as [{ user_id: string }[]];
    this.known.clear();
    for (const id of new Set(rows.map((row) => row.user_id))) await this.tell(id);
    return rows.length;
  }

  /** Ends what somebody of the organisation's provider has open. */
  async endOfProvider(provider: string): Promise<void> {
    const user = await this.data.getRepository(AppUser).findOneBy({ provider });
    if (user) await this.end('user_id', user.id);
  }

  /** The password, and the code where there is a factor, once more. @returns seconds to wait, or whether it was right */
  async confirm(userId: string, password: string, code: string | undefined, address: string): Promise<SignInResult | 'right'> {
    const user = await this.data.getRepository(AppUser).findOneByOrFail({ id: userId });
    const waitS = await this.patience.take('account', user.email);
    if (waitS > 0) return { waitS };
    if (user.passwordHash === null || !(await verify(user.passwordHash, password))) return { refused: 'wrong' };
    if (user.factorSecret !== null) {
      if (code === undefined) {
        await this.patience.giveBack('account', user.email);
        return { refused: 'code needed' };
      }
      if (!(await this.codeIsRight(user, code, address))) return { refused: 'code wrong' };
    }
    await this.patience.right('account', user.email);
    return 'right';
  }

  async confirmed(sessionId: string): Promise<void> {
    await this.data.query('UPDATE app_session SET confirmed_at = now() WHERE id = $1', [sessionId]);
    this.known.clear();
  }

  /** Rights of a user changed: they are read anew everywhere. */
  async tell(userId: string): Promise<void> {
    this.known.clear();
    await this.channel.tell({ type: 'sessions', id: userId });
  }
}
