import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiBody, ApiTags } from '@nestjs/swagger';
import { CheckLinkRequest, CheckLinkView, type Measurement, MeasurementKept } from '@underpass/contracts';
import { roundTripsOf } from '@underpass/core';
import { z } from 'zod';
import type { SignedRequest } from '../signin/session.guard.js';
import { uuidV7 } from '../database/uuid.js';
import { bytesOf } from '../edge/bytesOf.js';
import { Reading } from '../edge/reading.service.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { ChangeService } from '../estate/change.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { CheckLinkService } from './checkLink.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

const Uuid = z.uuid();

@ApiTags('evidence')
@Controller()
export class CheckLinksController {
  constructor(
    private readonly links: CheckLinkService,
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly reading: Reading,
  ) {}

  @Post('check-links')
  @Answers(CheckLinkView, 201)
  make(@Body({ schema: CheckLinkRequest }) body: CheckLinkRequest, @Req() request: SignedRequest): Promise<CheckLinkView> {
    return this.links.make(body, request.user.name);
  }

  @Get('check-links')
  @Answers(CheckLinkView.array())
  list(): Promise<CheckLinkView[]> {
    return this.links.list();
  }

  @Get('check-links/:id')
  @Answers(CheckLinkView)
  one(@Param('id', { schema: Uuid }) id: string): Promise<CheckLinkView> {
    return this.links.one(id);
  }

  @Delete('check-links/:id')
  @AnswersNothing()
  @HttpCode(204)
  revoke(@Param('id', { schema: Uuid }) id: string): Promise<void> {
    return this.links.revoke(id);
  }

  /** A measurement taken with another program: its text, and where it was taken. */
  @Post('measurements')
  @Answers(MeasurementKept, 201)
  @Takes(21 * MB, 'bytes')
  @AtOnce('upload', 1, 2)
  @ApiBody({ type: Object, description: 'MeasurementRequest: the text, and where it was taken' })
  async import(@Body() bytes: unknown, @Req() request: SignedRequest): Promise<{ id: string; kind: string; summary: object }> {
    const { where: body, read } = await this.reading.run('measurement', { bytes: bytesOf(bytes) });
    if (!this.store.find('location', body.location)) throw notFound('location', body.location);
    if (body.endpoint && !this.store.find('endpoint', body.endpoint)) throw notFound('endpoint', body.endpoint);
    if (body.target && !this.store.find('region', body.target)) throw notFound('region', body.target);
    if (!read.ok)
      throw new ProblemError(422, 'Not valid', `${read.fault.place}: ${read.fault.problem}; ${read.fault.remedy}`, [
        { field: 'text', problem: `${read.fault.place}: ${read.fault.problem}` },
      ]);
    const { kind, summary, roundTripsMs } = read.value;
    const trips = roundTripsOf(roundTripsMs, summary.sent === null ? 0 : summary.sent - roundTripsMs.length);
    const udp =
      kind === 'iperf3' && summary.sent !== null
        ? {
            passes: true,
            sent: summary.sent,
            lost: summary.sent - (summary.received ?? 0),
            ...(summary.jitterMs === null ? {} : { jitterMs: summary.jitterMs }),
          }
        : undefined;
    const measurement: Measurement = {
      id: uuidV7(),
      at: new Date().toISOString(),
      by: request.user.name,
      method: kind,
      vantage: body.vantage,
      ...(body.endpoint ? { endpoint: body.endpoint } : {}),
      ...(body.person ? { person: body.person } : {}),
      location: body.location,
      ...(body.target ? { target: body.target } : {}),
      ...(body.medium ? { medium: body.medium } : {}),
      partial: false,
      figures: {
        ...(trips ? { roundTrips: trips } : {}),
        ...(udp ? { datagrams: udp } : {}),
        ...(summary.downMbps === null ? {} : { downMbps: summary.downMbps }),
        ...(summary.upMbps === null ? {} : { upMbps: summary.upMbps }),
      },
    };
    await this.changes.keepMeasurements([measurement], `Measurement imported for ${body.location}`);
    return { id: measurement.id, kind, summary };
  }
}
