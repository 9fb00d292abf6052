import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { SecurityEvent } from '@underpass/contracts';
import { DataSource } from 'typeorm';
import { uuidV7 } from '../database/uuid.js';
import { TrustedProxies } from '../edge/address.js';
import type { IncomingMessage } from 'node:http';

/** What the log tells of. Weighty ones are warnings where it is read by machines. */
export const securityKinds = {
  'signed in': 'notice',
  'sign-in refused': 'warning',
  'signed out': 'notice',
  'session ended': 'notice',
  'password changed': 'notice',
  'second factor set up': 'notice',
  'second factor removed': 'warning',
  'spare codes made': 'notice',
  'spare code used': 'warning',
  'user added': 'notice',
  'user removed': 'warning',
  'role changed': 'warning',
  'rules changed': 'warning',
  exported: 'notice',
  'person shown': 'notice',
  'secret shown': 'warning',
  'person erased': 'warning',
  'token refused': 'warning',
  'directory added': 'notice',
  'directory removed': 'warning',
  'provider refused': 'warning',
} as const;
export type SecurityKind = keyof typeof securityKinds;

interface Row {
  id: string;
  at: Date;
  kind: SecurityKind;
  user_id: string | null;
  who: string;
  address: string;
  about: string;
}

/** The log of what concerns doors and rights, apart from the history of the estate. Never a secret, a token or a password in it. */
@Injectable()
export class SecurityLog {
  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly proxies: TrustedProxies,
  ) {}

  /** What somebody who is signed in did. */
  recordOf(kind: SecurityKind, request: IncomingMessage & { user: { id: string; email: string } }, about = ''): Promise<void> {
    return this.record(kind, { user: request.user, address: this.proxies.addressOf(request), about });
  }

  async record(
    kind: SecurityKind,
    what: { user?: { id: string; email: string }; who?: string; address: string; about?: string },
  ): Promise<void> {
    await this.data.query(
      'INSERT INTO security_event (id, at, kind, user_id, who, address, about) VALUES ($1, now(), $2, $3, $4, $5, $6)',
      [uuidV7(), kind, what.user?.id ?? null, what.user?.email ?? what.who ?? '', what.address, (what.about ?? '').slice(0, 300)],
    );
  }

  async list(before: string | undefined, limit: number): Promise<SecurityEvent[]> {
    const rows: Row[] = await this.data.query(
      'SELECT * FROM security_event WHERE $1::timestamptz IS NULL OR at < $1 ORDER BY at DESC, id DESC LIMIT $2',
      [before ?? null, limit],
    );
    return rows.map((row) => ({
      id: row.id,
      at: row.at.toISOString(),
      kind: row.kind,
      who: row.who,
      address: row.address,
      about: row.about,
    }));
  }

  /** A part of the log as lines of the syslog protocol [RFC 5424 6]. */
  async syslog(limit: number, host: string): Promise<string> {
    return (await this.list(undefined, limit)).map((event) => syslogLine(event, host)).join('\n');
  }
}

/** Facility 10, security and authorisation messages; severities 4 and 5 [RFC 5424 6.2.1]. */
const facility = 10;
const severities = { warning: 4, notice: 5 } as const;
/** The enterprise number reserved for documentation [RFC 5612]. */
const enterprise = 32_473;

/** Quotes, backslashes and closing brackets are escaped in a parameter's value [RFC 5424 6.3.3]; control characters are left out. */
// oxlint-disable-next-line no-control-regex
const parameter = (text: string): string => text.replace(/[\u0000-\u001f\u007f]/g, ' ').replace(/["\\\]]/g, '\\$&');
const printable = (text: string): string => text.replace(/[^\x21-\x7e]/g, '').slice(0, 255) || '-';

export function syslogLine(event: SecurityEvent, host: string): string {
  const priority = facility * 8 + severities[securityKinds[event.kind as SecurityKind] ?? 'notice'];
  const id = event.kind.replaceAll(' ', '-');
  const data = `[underpass@${enterprise} event="${event.id}" who="${parameter(event.who)}" address="${parameter(event.address)}"]`;
  // the mark says that the text is UTF-8
  return `<${priority}>1 ${event.at} ${printable(host)} underpass - ${id} ${data} \uFEFF${parameter(event.about || event.kind)}`;
}
