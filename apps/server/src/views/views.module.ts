import { Module } from '@nestjs/common';
import { ViewsController } from './views.controller.js';

/** Lists and the Board as somebody wants to see them again, by name. */
@Module({ controllers: [ViewsController] })
export class ViewsModule {}
