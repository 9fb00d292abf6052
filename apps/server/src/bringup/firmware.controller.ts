import { Body, Controller, Delete, Get, HttpCode, Param, Put, Query } from '@nestjs/common';
import { ApiBody, ApiTags } from '@nestjs/swagger';
import { firmwarePieceBytes, FirmwareAsked, FirmwareList, FirmwareWho, PieceQuery, PieceTaken } from '@underpass/contracts';
import { whoInstalls, type WhoInstalls } from '@underpass/core';
import { Answers, AnswersNothing } from '../edge/answers.js';
import { bytesOf } from '../edge/bytesOf.js';
import { AtOnce, Takes } from '../edge/takes.js';
import { EstateStore } from '../estate/estate.store.js';
import { Needs } from '../signin/session.guard.js';
import { FirmwareFiles } from './firmwareFiles.service.js';

/** Of those that would be put back, so many are named. */
const mostNamed = 5;
const counted = (who: WhoInstalls): FirmwareWho['devices'] => ({
  up: who.up.length,
  down: who.down.length,
  nothing: who.nothing.length,
  notKnown: who['not known'].length,
  passed: who.passed.length,
  refuse: who.refuse.length,
});

/** Firmware that is put up, and its bytes. */
@ApiTags('bringup')
@Controller('bringup/firmware')
export class FirmwareController {
  constructor(
    private readonly store: EstateStore,
    private readonly files: FirmwareFiles,
  ) {}

  /** Every file with what devices do with it at their next start. */
  @Get()
  @Answers(FirmwareList)
  async list(): Promise<FirmwareList> {
    const { estate } = this.store.model;
    const [stored, whole] = [await this.files.all(), await this.files.whole()];
    const files = estate.firmware.map((file) => {
      const { id, deviceClass, version, processor, sizeMB, reason = null } = file;
      const row = stored.get(id);
      const sha256 = file.sha256?.toLowerCase() ?? row?.sha256 ?? null;
      return {
        ...{ id, deviceClass, version, processor, sizeMB, sha256, reason },
        devices: counted(whoInstalls(file, estate.firmware, estate.endpoint)),
        stored: row ? { here: row.here, total: row.total, whole: whole.has(id), at: row.at.toISOString() } : null,
      };
    });
    return { files: files.sort((a, b) => b.devices.down - a.devices.down || (a.id < b.id ? -1 : 1)) };
  }

  /** What devices would do with a file that is about to be put up. */
  @Get('who')
  @Answers(FirmwareWho)
  who(@Query({ schema: FirmwareAsked }) asked: FirmwareAsked): FirmwareWho {
    const { estate } = this.store.model;
    const who = whoInstalls(asked, estate.firmware, estate.endpoint);
    return { devices: counted(who), back: who.down.slice(0, mostNamed) };
  }

  /** Takes the next piece of a file; an upload that broke off goes on from what is here. */
  @Put(':id/bytes')
  @Answers(PieceTaken)
  @Takes(firmwarePieceBytes, 'octets')
  @AtOnce('piece of a file', 2, 4)
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  @Needs('engineer')
  take(@Param('id') id: string, @Query({ schema: PieceQuery }) piece: PieceQuery, @Body() body: unknown): Promise<PieceTaken> {
    return this.files.take(id, piece, bytesOf(body));
  }

  /** Forgets the bytes of a file. */
  @Delete(':id/bytes')
  @HttpCode(204)
  @AnswersNothing()
  @Needs('engineer')
  forget(@Param('id') id: string): Promise<void> {
    return this.files.forget(id);
  }
}
