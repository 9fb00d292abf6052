import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { FindQuery, kindOrder, objectKinds, FoundObject, type ObjectKind } from '@underpass/contracts';
import { EstateStore } from './estate.store.js';
import { Answers } from '../edge/answers.js';

/** People first, then the kinds in the order people look for them. */
const kinds: ObjectKind[] = [...new Set<ObjectKind>(['person', 'endpoint', ...kindOrder, ...objectKinds])];

@ApiTags('estate')
@Controller('find')
export class FindController {
  constructor(private readonly store: EstateStore) {}

  /** The objects whose name or id holds the words, people first. */
  @Get()
  @Answers(FoundObject.array())
  find(@Query({ schema: FindQuery }) { q }: FindQuery): FoundObject[] {
    const words = q.toLowerCase().split(/\s+/);
    const found: FoundObject[] = [];
    for (const kind of kinds) {
      let ofKind = 0;
      for (const object of this.store.all(kind)) {
        const { id, name, location, key } = object as { id: string; name?: string; location?: string; key?: string };
        const text = `${id} ${name ?? ''} ${key ?? ''}`.toLowerCase();
        if (!words.every((word) => text.includes(word))) continue;
        found.push({ kind, id, name: name ?? key ?? id, detail: location ?? '', path: pathOf(kind, id) });
        if (++ofKind >= 6) break;
      }
      if (found.length >= 20) break;
    }
    return found.slice(0, 20);
  }
}

function pathOf(kind: ObjectKind, id: string): string {
  if (kind === 'person') return `/crossings?person=${encodeURIComponent(id)}`;
  if (kind === 'location') return `/crossings?location=${encodeURIComponent(id)}`;
  if (kind === 'resource') return `/crossings?resource=${encodeURIComponent(id)}`;
  return `/estate/${kind}/${encodeURIComponent(id)}`;
}
