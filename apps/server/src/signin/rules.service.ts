import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DoorRules, roleWords, usualDoorRules } from '@underpass/contracts';
import { DataSource, type EntityManager } from 'typeorm';
import { overSeen } from '../database/overSeen.js';

const key = 'doors';
/** Another server's change counts after this long, ms. */
const keptMs = 5000;

/** What an administrator chose about sign-ins and about how long things are kept. */
@Injectable()
export class RulesService {
  private known: { rules: DoorRules; until: number } | null = null;

  constructor(@InjectDataSource() private readonly data: DataSource) {}

  async get(): Promise<DoorRules> {
    if (this.known && this.known.until > Date.now()) return this.known.rules;
    const rules = await read(this.data);
    this.known = { rules, until: Date.now() + keptMs };
    return rules;
  }

  /** @param was the rules they were made from, as somebody saw them */
  async set(rules: DoorRules, was?: DoorRules): Promise<void> {
    const seen = { was, words: roleWords, changed: () => 'The rules were changed since you saw them' };
    await overSeen(this.data, read, seen, (manager) =>
      manager.query('INSERT INTO rule (key, value) VALUES ($1, $2) ON CONFLICT (key) DO UPDATE SET value = excluded.value', [
        key,
        JSON.stringify(rules),
      ]),
    );
    this.known = { rules, until: Date.now() + keptMs };
  }
}

async function read(run: Pick<EntityManager, 'query'>): Promise<DoorRules> {
  const [row] = (await run.query('SELECT value FROM rule WHERE key = $1', [key])) as { value: object }[];
  return DoorRules.parse({ ...usualDoorRules, ...row?.value });
}
