import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { hash, verify } from '@node-rs/argon2';
import type { Role, UserView } from '@underpass/contracts';
import { DataSource, LessThan } from 'typeorm';
import { AppSession, AppUser } from '../database/entities.js';
import { uuidV7 } from '../database/uuid.js';
import { hashToken, newToken } from './tokens.js';

export interface SignedIn {
  id: string;
  name: string;
  email: string;
  role: Role;
}

const sessionHours = 12;
/** argon2id at the first recommended setting of RFC 9106 §4 scaled to small servers: 19 MiB, 2 passes. */
const argon = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Checked where nobody has the address, so that the time tells nothing. */
const nobody = hash('nobody has this password', argon);

@Injectable()
export class SessionService {
  private readonly known = new Map<string, { user: SignedIn; until: number }>();

  constructor(@InjectDataSource() private readonly data: DataSource) {}

  async signIn(email: string, password: string): Promise<{ token: string; user: SignedIn } | null> {
    const user = await this.data.getRepository(AppUser).findOneBy({ email });
    const right = await verify(user?.passwordHash ?? (await nobody), password);
    if (!user || !right) return null;
    const token = newToken();
    const sessions = this.data.getRepository(AppSession);
    await sessions.delete({ expiresAt: LessThan(new Date()) });
    await sessions.insert({ tokenHash: hashToken(token), userId: user.id, expiresAt: new Date(Date.now() + sessionHours * 3_600_000) });
    return { token, user: { id: user.id, name: user.name, email: user.email, role: user.role } };
  }

  /** Who a token belongs to. Remembered for a few seconds, so that a page's burst of requests asks the database once. */
  async who(token: string): Promise<SignedIn | null> {
    const tokenHash = hashToken(token);
    const known = this.known.get(tokenHash);
    if (known && known.until > Date.now()) return known.user;
    const session = await this.data.getRepository(AppSession).findOneBy({ tokenHash });
    if (!session || session.expiresAt < new Date()) return null;
    const user = await this.data.getRepository(AppUser).findOneBy({ id: session.userId });
    if (!user) return null;
    const signedIn = { id: user.id, name: user.name, email: user.email, role: user.role };
    if (this.known.size > 1000) this.known.clear();
    this.known.set(tokenHash, { user: signedIn, until: Date.now() + 5000 });
    return signedIn;
  }

  async signOut(token: string): Promise<void> {
    this.known.delete(hashToken(token));
    await this.data.getRepository(AppSession).delete({ tokenHash: hashToken(token) });
  }

  /** Adds a user; one who is there already stays as they are. @returns whether one was added */
  async ensureUser(email: string, name: string, role: Role, password: string): Promise<boolean> {
    const users = this.data.getRepository(AppUser);
    if (await users.findOneBy({ email })) return false;
    await users.insert({ id: uuidV7(), email, name, role, passwordHash: await hash(password, argon) });
    return true;
  }

  async users(): Promise<UserView[]> {
    const users = await this.data.getRepository(AppUser).find({ order: { email: 'ASC' } });
    return users.map(({ id, email, name, role }) => ({ id, email, name, role }));
  }

  /** Removes a user and, with them, their sessions. */
  async removeUser(id: string): Promise<boolean> {
    const { affected } = await this.data.getRepository(AppUser).delete({ id });
    this.known.clear();
    return (affected ?? 0) > 0;
  }
}
