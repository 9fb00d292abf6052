import { measurePlugged } from './plugged.js';
import type { Figures } from '@underpass/contracts';
import { percentile, roundTripsOf } from '@underpass/core';
import { measureDatagrams } from './datagrams.js';
import { browserFacts, measureDecoders, measureRefresh, measureScene, measureScreens } from './picture.js';
import { sampleRoundTrips, sampleWhile } from './roundTrips.js';
import type { CheckSocket } from './socket.js';
import { measureDown, measureUp } from './transfers.js';

export const stepOrder = ['round trips', 'datagrams', 'down', 'up', 'picture'] as const;
export type StepName = (typeof stepOrder)[number];

const median = (values: readonly number[]): number | undefined =>
  values.length >= 5
    ? percentile(
        [...values].sort((a, b) => a - b),
        0.5,
      )
    : undefined;
const round = (value: number) => Math.round(value * 100) / 100;

/**
 * The whole check, step by step. What is known so far is sent after each step, so that a check that is broken off keeps its parts.
 * Ends early where the signal says so.
 */
export async function runCheck(
  token: string,
  socket: CheckSocket,
  canvas: HTMLCanvasElement,
  screens: Promise<unknown>,
  signal: AbortSignal,
  onStep: (step: StepName, figures: Figures) => void,
): Promise<Figures> {
  const figures: Figures = {};
  const begin = (step: StepName) => {
    onStep(step, { ...figures });
    socket.send({ type: 'step', step });
  };
  const keep = (done = false) => socket.send({ type: 'figures', figures, done });
  const added = (loaded: readonly number[]) => {
    const [busy, idle] = [median(loaded), figures.roundTrips?.medianMs];
    return busy === undefined || idle === undefined ? undefined : round(Math.max(0, busy - idle));
  };

  begin('round trips');
  await socket.ping();
  const idle = await sampleRoundTrips(socket, 120, 25, signal);
  const trips = roundTripsOf(idle.ms, idle.lost);
  if (trips) figures.roundTrips = trips;
  keep();
  if (signal.aborted) return figures;

  begin('datagrams');
  const datagrams = await measureDatagrams(socket).catch(() => undefined);
  if (datagrams) figures.datagrams = datagrams;
  keep();
  if (signal.aborted) return figures;

  begin('down');
  let loaded = sampleWhile(socket, 60);
  const down = await measureDown(token, signal);
  const addedDown = added((await loaded()).slice(5));
  if (down !== null) figures.downMbps = round(down);
  if (addedDown !== undefined) figures.addedDownMs = addedDown;
  keep();
  if (signal.aborted) return figures;

  begin('up');
  loaded = sampleWhile(socket, 60);
  const up = await measureUp(token, socket, signal);
  const addedUp = added((await loaded()).slice(5));
  if (up !== null) figures.upMbps = round(up);
  if (addedUp !== undefined) figures.addedUpMs = addedUp;
  keep();
  if (signal.aborted) return figures;

  begin('picture');
  const refresh = await measureRefresh();
  await screens;
  figures.screens = await measureScreens(refresh);
  figures.decodes = await measureDecoders();
  const scene = await measureScene(canvas).catch(() => undefined);
  if (scene) figures.scene = scene;
  figures.browser = await browserFacts();
  const plugged = await measurePlugged();
  if (plugged) figures.plugged = plugged;
  keep(true);
  return figures;
}
