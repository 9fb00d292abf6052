import { applyDecorators, SetMetadata } from '@nestjs/common';
import { ApiNoContentResponse, ApiResponse } from '@nestjs/swagger';
import type { z } from 'zod';

/** Where the schema of a route's answer is kept, for whoever compares real answers with it. */
export const answersKey = 'answers';

/** States what a route answers, in the served description. */
export const Answers = (schema: z.ZodType, status = 200): MethodDecorator =>
  applyDecorators(SetMetadata(answersKey, schema), ApiResponse({ status, standardSchema: schema }));

/** The answer has no content: it is done. */
export const AnswersNothing = (): MethodDecorator => applyDecorators(ApiNoContentResponse());

/** The answer is a file of one of these types. */
export const AnswersFile = (...types: readonly string[]): MethodDecorator =>
  ApiResponse({ status: 200, content: Object.fromEntries(types.map((type) => [type, { schema: { type: 'string', format: 'binary' } }])) });

/** The answer leads somewhere else. */
export const AnswersElsewhere = (): MethodDecorator => ApiResponse({ status: 302, description: 'Leads on to another address' });
