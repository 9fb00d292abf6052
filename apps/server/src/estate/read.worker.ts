import { faultOfSetting } from '@underpass/core';
import type { MessagePort } from 'node:worker_threads';
import { readFolder, type FolderContent, type ObjectKind } from '@underpass/contracts';

/** Reads an estate folder away from the thread that answers people. */
export default function read({
  files,
  known,
  port,
}: {
  files: Record<string, string>;
  known: Record<ObjectKind, string[]>;
  port: MessagePort;
}): FolderContent {
  const ids = Object.fromEntries(Object.entries(known).map(([kind, list]) => [kind, new Set(list)]));
  return readFolder(new Map(Object.entries(files)), ids, (file, done, total) => port.postMessage({ file, done, total }), faultOfSetting);
}
