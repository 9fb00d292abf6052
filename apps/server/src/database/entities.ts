import type { Change, JobView } from '@underpass/contracts';
import type { Figures, Role, Vantage, Verdict } from '@underpass/contracts';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Any object of the estate; its content follows the schema of its kind (see docs/decisions/0002). */
@Entity({ name: 'estate_object' })
export class EstateObject {
  @PrimaryColumn('text') kind!: string;
  @PrimaryColumn('text') id!: string;
  @Column('jsonb') data!: object;
  @Column('bigint') version!: string;
  @Column('boolean') deleted!: boolean;
}

/** One change of the estate, of one object or of many: who made it, when, and which change it takes back. */
@Entity({ name: 'change_set' })
export class ChangeSet {
  @PrimaryColumn('uuid') id!: string;
  @Column('timestamptz') at!: Date;
  @Column('text', { name: 'by_name' }) byName!: string;
  @Column('text') summary!: string;
  @Column('uuid', { nullable: true }) undoes!: string | null;
  @Column('int') objects!: number;
  /** Version of the estate that it made: changes are in the order of these, and not of their times. */
  @Column('bigint') version!: string;
}

/** What a change did to one object. */
@Entity({ name: 'audit_entry' })
export class AuditEntryRow {
  @PrimaryColumn('uuid') id!: string;
  @Column('uuid', { name: 'change_id' }) changeId!: string;
  @Column('text') kind!: string;
  @Column('text', { name: 'object_id' }) objectId!: string;
  @Column('jsonb', { nullable: true }) before!: object | null;
  @Column('jsonb', { nullable: true }) after!: object | null;
}

@Entity({ name: 'measurement' })
export class MeasurementRow {
  @PrimaryColumn('text') id!: string;
  @PrimaryColumn('timestamptz') at!: Date;
  @Column('text', { name: 'by_name' }) byName!: string;
  @Column('text') method!: string;
  @Column('text') vantage!: Vantage;
  @Column('text', { nullable: true }) person!: string | null;
  @Column('text', { nullable: true }) endpoint!: string | null;
  @Column('text') location!: string;
  @Column('text', { nullable: true }) target!: string | null;
  @Column('text', { nullable: true }) medium!: string | null;
  @Column('boolean') partial!: boolean;
  @Column('text', { nullable: true }) note!: string | null;
  @Column('jsonb') figures!: Figures;
  @Column('bigint') version!: string;
}

@Entity({ name: 'app_user' })
export class AppUser {
  @PrimaryColumn('uuid') id!: string;
  @Column('text') email!: string;
  @Column('text') name!: string;
  @Column('text') role!: Role;
  /** None for those who sign in through the organisation's provider alone. */
  @Column('text', { name: 'password_hash', nullable: true }) passwordHash!: string | null;
  /** Of the published demo; they sign in only where the demo is served. */
  @Column('boolean') demo!: boolean;
  /** Issuer and subject at the organisation's provider. */
  @Column('text', { nullable: true }) provider!: string | null;
  /** Secret of the second factor, sealed. */
  @Column('text', { name: 'factor_secret', nullable: true }) factorSecret!: string | null;
  /** The last time step a code was taken for, so that none is taken twice. */
  @Column('bigint', { name: 'factor_step' }) factorStep!: string;
  /** Hashes of the spare codes that are left. */
  @Column('text', { name: 'spare_codes', array: true }) spareCodes!: string[];
}

@Entity({ name: 'app_session' })
export class AppSession {
  @PrimaryColumn('text', { name: 'token_hash' }) tokenHash!: string;
  @Column('uuid') id!: string;
  @Column('uuid', { name: 'user_id' }) userId!: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt!: Date;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt!: Date;
  /** When somebody last did something; what pages fetch by themselves does not count. */
  @Column('timestamptz', { name: 'used_at' }) usedAt!: Date;
  /** When the password, or the provider, was last asked. */
  @Column('timestamptz', { name: 'confirmed_at' }) confirmedAt!: Date;
  @Column('text') address!: string;
  @Column('text') device!: string;
  /** For a single sign-out: the provider's own session and the token that ends it. */
  @Column('text', { name: 'provider_session', nullable: true }) providerSession!: string | null;
  @Column('text', { name: 'provider_token', nullable: true }) providerToken!: string | null;
}

@Entity({ name: 'check_link' })
export class CheckLink {
  @PrimaryColumn('uuid') id!: string;
  @Column('text', { name: 'token_hash' }) tokenHash!: string;
  @Column('text', { nullable: true }) endpoint!: string | null;
  @Column('text', { nullable: true }) person!: string | null;
  @Column('text') location!: string;
  @Column('text', { name: 'created_by' }) createdBy!: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt!: Date;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt!: Date;
  @Column('timestamptz', { name: 'revoked_at', nullable: true }) revokedAt!: Date | null;
  @Column('int') opened!: number;
  @Column('text') state!: string;
  @Column('text') step!: string;
}

@Entity({ name: 'draft' })
export class Draft {
  @PrimaryColumn('uuid') id!: string;
  @Column('text') name!: string;
  @Column('text', { nullable: true }) crossing!: string | null;
  @Column('jsonb') change!: Change;
  @Column('text', { name: 'created_by' }) createdBy!: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt!: Date;
  /** When it was written last: whoever writes it again says which version they saw. */
  @Column('timestamptz', { name: 'updated_at' }) updatedAt!: Date;
}

@Entity({ name: 'verdict_history' })
export class VerdictHistory {
  @PrimaryColumn('text') crossing!: string;
  @PrimaryColumn('bigint') version!: string;
  /** The moment, ms since 1970, where time alone brought it; 0 where a change did. */
  @PrimaryColumn('bigint') moment!: string;
  @Column('timestamptz') at!: Date;
  @Column('text') verdict!: Verdict;
  @Column('real', { name: 'delay_ms' }) delayMs!: number;
  @Column('real', { name: 'frame_rate' }) frameRate!: number;
  @Column('text') cause!: string;
}

/** Long work: who asked for what, how far it is, and what it came to. */
@Entity({ name: 'job' })
export class JobRow {
  @PrimaryColumn('uuid') id!: string;
  @Column('text') kind!: JobView['kind'];
  @Column('text') name!: string;
  @Column('text', { name: 'by_name' }) byName!: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt!: Date;
  @Column('text') state!: JobView['state'];
  @Column('text') step!: string;
  @Column('int') done!: number;
  @Column('int') total!: number;
  @Column('jsonb') request!: object;
  /** What was sent along, until the work is over: up to 80 MB, so whoever needs it reads it in parts (`largeBytes`). */
  @Column('bytea', { nullable: true, select: false }) input?: Buffer | null;
  @Column('jsonb', { nullable: true }) result!: object | null;
  @Column('text', { nullable: true }) message!: string | null;
  @Column('boolean') cancel!: boolean;
}

/** A link that goes straight to a resource. */
@Entity({ name: 'entry_link' })
export class EntryLink {
  @PrimaryColumn('text') id!: string;
  @Column('text') publication!: string;
  @Column('text') resource!: string;
  @Column('text', { name: 'target_kind' }) targetKind!: 'person' | 'group' | 'location' | 'endpoint';
  @Column('text') target!: string;
  @Column('text') caption!: string;
  @Column('text', { name: 'created_by' }) createdBy!: string;
  @Column('timestamptz', { name: 'created_at' }) createdAt!: Date;
  @Column('timestamptz', { name: 'expires_at' }) expiresAt!: Date;
  @Column('timestamptz', { name: 'revoked_at', nullable: true }) revokedAt!: Date | null;
  @Column('int') opened!: number;
  @Column('timestamptz', { name: 'opened_at', nullable: true }) openedAt!: Date | null;
}

/** A tester of an acceptance run: what they should see, and what they saw once it is known. */
export interface KeptTester {
  person: string;
  expected: string[];
  saw?: string[] | undefined;
  at?: string | undefined;
  by?: string | undefined;
  note?: string | undefined;
  reported?: boolean | undefined;
}

@Entity({ name: 'acceptance_run' })
export class AcceptanceRun {
  @PrimaryColumn('uuid') id!: string;
  @Column('timestamptz', { name: 'started_at' }) startedAt!: Date;
  @Column('text', { name: 'started_by' }) startedBy!: string;
  @Column('boolean') optimal!: boolean;
  @Column('jsonb') testers!: KeptTester[];
  @Column('timestamptz', { name: 'signed_off_at', nullable: true }) signedOffAt!: Date | null;
  @Column('text', { name: 'signed_off_by', nullable: true }) signedOffBy!: string | null;
}

export const entities = [
  EstateObject,
  ChangeSet,
  AuditEntryRow,
  MeasurementRow,
  AppUser,
  AppSession,
  CheckLink,
  Draft,
  VerdictHistory,
  EntryLink,
  AcceptanceRun,
  JobRow,
];
