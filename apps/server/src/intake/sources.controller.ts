import { Body, Controller, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { ApiTags } from '@nestjs/swagger';
import {
  Applied,
  completed,
  Key,
  kindWords,
  ObjectKindWord,
  OriginsAnswer,
  SourceOrder,
  SourceOrderRequest,
  TakeSaid,
  usualOrder,
  type ObjectKind,
} from '@underpass/contracts';
import { classOf, orderFor, originsOf, stamped, type SaidOf } from '@underpass/core';
import { DataSource } from 'typeorm';
import type { z } from 'zod';
import { Answers } from '../edge/answers.js';
import { overSeen } from '../database/overSeen.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { orderFrom, saidOf } from '../estate/said.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { textOfValue } from './settle.js';

/** Where facts are from, and which source decides where several say something. */
@ApiTags('intake')
@Controller('intake')
export class SourcesController {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    @InjectDataSource() private readonly data: DataSource,
  ) {}

  /** Where each field of an object is from; fields no source says anything of are left out. */
  @Get('origins/:kind/:id')
  @Answers(OriginsAnswer)
  async origins(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id', { schema: Key }) id: string,
  ): Promise<z.infer<typeof OriginsAnswer>> {
    const object = this.store.find(kind, id);
    if (!object) throw notFound(kind, id);
    const [said, order] = await Promise.all([saidOf(this.store.query, kind, [id]), orderFrom(this.store.query)]);
    return originsOf(object, said.get(id) ?? new Map(), (field) => orderFor(order, kind, field, usualOrder)).map(
      ({ others, value, ...rest }) => ({
        ...rest,
        value: this.text(kind, rest.field, value),
        others: others.map((other) => ({ ...other, value: this.text(kind, rest.field, other.value) })),
      }),
    );
  }

  private text(kind: ObjectKind, field: string, value: unknown): string {
    return textOfValue(kind, field, value, (of, id) => (this.store.find(of, id) as { name?: string } | undefined)?.name);
  }

  /** Takes what another source says of a field. What somebody typed of it is not held against that source any more. */
  @Post('origins/:kind/:id')
  @Answers(Applied)
  @HttpCode(200)
  @Needs('engineer')
  async take(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id', { schema: Key }) id: string,
    @Body({ schema: TakeSaid }) { field, source, was, says }: z.infer<typeof TakeSaid>,
    @Req() { user }: SignedRequest,
  ): Promise<Applied> {
    const said: SaidOf = (await saidOf(this.store.query, kind, [id])).get(id) ?? new Map();
    const told = said.get(source)?.[field];
    if (!told) throw new ProblemError(409, 'Changed meanwhile', `${source} does not say anything of ${field} any more. Look again.`);
    if (this.text(kind, field, told.value) !== says)
      throw new ProblemError(409, 'Changed meanwhile', `${source} says otherwise by now. Nothing was taken over: look again.`);
    const plan = () => {
      const before = this.store.find(kind, id) as Record<string, unknown> | undefined;
      if (!before) throw notFound(kind, id);
      const now = this.text(kind, field, before[field] ?? null);
      if (now !== was)
        throw new ProblemError(409, 'Changed meanwhile', `It is ${now || 'nothing'} by now. Nothing was taken over: look again.`);
      const { [field]: _, ...rest } = before;
      const after = completed(kind, told.value === null ? rest : { ...rest, [field]: told.value });
      return [stamped({ kind, id, before, after }, Date.now())];
    };
    const { name = id } = (this.store.find(kind, id) ?? {}) as { name?: string };
    const order = orderFor(await orderFrom(this.store.query), kind, field, usualOrder);
    const rank = (each: string) => order.indexOf(classOf(each));
    // one that decides before it would take its place at its next turn: then it is this person's word that holds
    const before = [...said].some(([each, fields]) => each !== 'typed' && fields[field] && rank(each) < rank(source));
    const ofField = { kind, id, source: 'typed', fields: { [field]: told } };
    return this.changes.apply(
      plan,
      user.name,
      `${kindWords[kind].one} ${name}: ${field} as another source says`,
      before ? {} : { told: { unsaid: [ofField] } },
    );
  }

  /** Which source decides, where somebody set it otherwise than usual. */
  @Get('source-order')
  @Answers(SourceOrder)
  order(): Promise<SourceOrder> {
    return orderFrom(this.store.query);
  }

  /** Sets which source decides. It holds for what comes from now on. */
  @Put('source-order')
  @Answers(SourceOrder)
  @Needs('engineer')
  async setOrder(
    @Body({ schema: SourceOrderRequest }) { order, was }: z.infer<typeof SourceOrderRequest>,
    @Req() { user }: SignedRequest,
  ): Promise<SourceOrder> {
    await overSeen(
      this.data,
      (manager) => orderFrom(<Row>(sql: string) => manager.query<Row[]>(sql)),
      { was, changed: () => 'The order was changed since you saw it' },
      (manager) =>
        manager.query(
          `INSERT INTO source_order (content, by_name, at) VALUES ($1, $2, now())
           ON CONFLICT (one) DO UPDATE SET content = excluded.content, by_name = excluded.by_name, at = excluded.at`,
          [JSON.stringify(order), user.name],
        ),
    );
    return order;
  }
}
