import { Module } from '@nestjs/common';
import { APP_FILTER } from '@nestjs/core';
import { ProblemFilter } from './problem.filter.js';

/** What is told when something fails. */
@Module({
  providers: [{ provide: APP_FILTER, useClass: ProblemFilter }],
})
export class ProblemsModule {}
