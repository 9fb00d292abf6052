import { PATH_METADATA, METHOD_METADATA } from '@nestjs/common/constants.js';
import { RequestMethod, type INestApplication } from '@nestjs/common';
import { ModulesContainer } from '@nestjs/core';
import 'reflect-metadata';
import type { z } from 'zod';
import { answersKey } from '../src/edge/answers.js';

interface Route {
  method: string;
  path: RegExp;
  schema: z.ZodType | undefined;
}
const list = (path: string | string[]): string[] => (Array.isArray(path) ? path : [path]);

/** Every route of the application with what it says it answers. */
function routesOf(app: INestApplication): Route[] {
  const routes: Route[] = [];
  for (const { controllers } of app.get(ModulesContainer).values())
    for (const { metatype } of controllers.values()) {
      const { prototype } = metatype as { prototype: Record<string, object> };
      for (const name of Object.getOwnPropertyNames(prototype)) {
        const handler = Object.getOwnPropertyDescriptor(prototype, name)?.value as unknown;
        if (typeof handler !== 'function') continue;
        const method = Reflect.getMetadata(METHOD_METADATA, handler) as RequestMethod | undefined;
        if (method === undefined) continue;
        for (const base of list(Reflect.getMetadata(PATH_METADATA, metatype as object) as string))
          for (const own of list(Reflect.getMetadata(PATH_METADATA, handler) as string)) {
            const parts = `${base}/${own}`.split('/').filter(Boolean);
            routes.push({
              method: RequestMethod[method],
              path: new RegExp(`^${parts.map((part) => (part.startsWith(':') ? '[^/]+' : part)).join('/')}$`),
              schema: Reflect.getMetadata(answersKey, handler) as z.ZodType | undefined,
            });
          }
      }
    }
  // what is written out comes before what stands for anything
  return routes.sort((a, b) => a.path.source.split('[^').length - b.path.source.split('[^').length);
}

/** The first field that an answer has and its description does not. */
function untold(answer: unknown, told: unknown, at = ''): string | null {
  if (typeof answer !== 'object' || answer === null) return null;
  for (const [key, value] of Object.entries(answer)) {
    const known = (told as Record<string, unknown> | null)?.[key];
    if (known === undefined && value !== undefined) return `${at}.${key}`;
    const deeper = untold(value, known, `${at}.${key}`);
    if (deeper) return deeper;
  }
  return null;
}

/** Compares real answers with what their routes say in the served description; null where they agree. */
export function answersChecker(app: INestApplication): (method: string, path: string, body: unknown) => string | null {
  const routes = routesOf(app);
  return (method, path, body) => {
    const plain = path.replace(/\?.*/, '');
    const route = routes.find((each) => each.method === method && each.path.test(plain));
    if (!route?.schema) return null;
    const parsed = route.schema.safeParse(body);
    if (!parsed.success) return `${method} ${plain} answers otherwise than it says: ${JSON.stringify(parsed.error.issues.slice(0, 3))}`;
    const field = untold(body, parsed.data);
    return field === null ? null : `${method} ${plain} answers ${field}, of which it says nothing`;
  };
}
