import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { DoorRules, usualDoorRules } from '@underpass/contracts';
import { DataSource } from 'typeorm';

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
    const [row] = (await this.data.query('SELECT value FROM rule WHERE key = $1', [key])) as { value: object }[];
    const rules = DoorRules.parse({ ...usualDoorRules, ...row?.value });
    this.known = { rules, until: Date.now() + keptMs };
    return rules;
  }

  async set(rules: DoorRules): Promise<void> {
    await this.data.query('INSERT INTO rule (key, value) VALUES ($1, $2) ON CONFLICT (key) DO UPDATE SET value = excluded.value', [
      key,
      JSON.stringify(rules),
    ]);
    this.known = null;
  }
}
