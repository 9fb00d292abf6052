import { Inject, Injectable } from '@nestjs/common';
import { HttpAdapterHost } from '@nestjs/core';
import type { AddressInfo } from 'node:net';
import { CONFIG, type Config } from '../config.js';

/** The address people reach this server at. Never taken from a request, which may say anything. */
@Injectable()
export class PublicOrigin {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly adapter: HttpAdapterHost,
  ) {}

  url(): string {
    if (this.config.publicUrl) return this.config.publicUrl;
    const { port } = (this.adapter.httpAdapter.getHttpServer() as { address: () => AddressInfo | null }).address() ?? this.config;
    return `http://localhost:${port}`;
  }
}
