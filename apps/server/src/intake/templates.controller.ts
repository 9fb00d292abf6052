import { Controller, Get, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { readFolder, writeTemplate } from '@underpass/contracts';
import type { Response } from 'express';
import { strToU8, zipSync } from 'fflate';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { AnswersFile } from '../edge/answers.js';
import { AtOnce } from '../edge/takes.js';

/** It comes with the program, whether it is served or not. */
const folder = fileURLToPath(new URL('../../../../demo/saltmarsh', import.meta.url));

/** Folders to begin with: an empty one to fill in, and the demo as an example. */
@ApiTags('intake')
@Controller('intake')
export class TemplatesController {
  /** Both are the same for everybody, as long as this server runs. */
  private readonly made = new Map<string, Promise<Buffer>>();

  /** An estate folder to fill in: every file with its columns and one example that is not read, and a page that explains them. */
  @Get('template')
  @AnswersFile('application/zip')
  @AtOnce('template', 2, 4)
  template(@Res() response: Response): Promise<void> {
    return this.send('my-estate', response, (files) => {
      const { estate, measurements } = readFolder(files);
      return writeTemplate(estate, measurements);
    });
  }

  /** The demo as a folder: what an estate looks like in files. */
  @Get('demo-folder')
  @AnswersFile('application/zip')
  @AtOnce('template', 2, 4)
  demo(@Res() response: Response): Promise<void> {
    return this.send('demo-estate', response, (files) => files);
  }

  private async send(name: string, response: Response, of: (files: Map<string, string>) => ReadonlyMap<string, string>): Promise<void> {
    let zip = this.made.get(name);
    if (!zip) {
      zip = this.pack(of);
      this.made.set(name, zip);
      // a failure is not kept
      zip.catch(() => this.made.delete(name));
    }
    const bytes = await zip;
    response.setHeader('content-type', 'application/zip');
    response.setHeader('content-disposition', `attachment; filename=${name}.zip`);
    response.end(bytes);
  }

  private async pack(of: (files: Map<string, string>) => ReadonlyMap<string, string>): Promise<Buffer> {
    const names = (await readdir(folder)).filter((each) => /\.(csv|ya?ml)$/.test(each));
    const files = new Map(await Promise.all(names.map(async (each) => [each, await readFile(join(folder, each), 'utf8')] as const)));
    return Buffer.from(zipSync(Object.fromEntries([...of(files)].map(([each, text]) => [each, strToU8(text)]))));
  }
}
