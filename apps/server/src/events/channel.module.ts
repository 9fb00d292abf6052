import { Global, Module } from '@nestjs/common';
import { Channel } from './channel.service.js';

/** What servers and workers on one database tell each other. */
@Global()
@Module({
  providers: [Channel],
  exports: [Channel],
})
export class ChannelModule {}
