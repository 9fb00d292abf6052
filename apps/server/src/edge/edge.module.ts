import { Global, Module } from '@nestjs/common';
import { APP_INTERCEPTOR, APP_PIPE } from '@nestjs/core';
import { CONFIG, type Config } from '../config.js';
import { TrustedProxies } from './address.js';
import { AtOnceInterceptor } from './atOnce.interceptor.js';
import { BodyInterceptor } from './body.interceptor.js';
import { EdgePipe } from './edge.pipe.js';
import { PublicOrigin } from './publicOrigin.js';
import { Reading } from './reading.service.js';

/** What comes in: how many at once, bodies, shapes, addresses. */
@Global()
@Module({
  providers: [
    { provide: APP_PIPE, useClass: EdgePipe },
    { provide: APP_INTERCEPTOR, useClass: AtOnceInterceptor },
    { provide: APP_INTERCEPTOR, useClass: BodyInterceptor },
    { provide: TrustedProxies, useFactory: ({ trustedProxy }: Config) => new TrustedProxies(trustedProxy), inject: [CONFIG] },
    PublicOrigin,
    Reading,
  ],
  exports: [TrustedProxies, PublicOrigin, Reading],
})
export class EdgeModule {}
