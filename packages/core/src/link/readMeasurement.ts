import { bad, good, type Result } from '../units/result.js';
import { nothingKnown, summariseRoundTrips, type LinkSummary } from './summarise.js';

/** Sorts of files of a measurement, told apart by their content. */
export type MeasurementFileKind = 'ping' | 'fping' | 'iperf3' | 'round trips';
/** A measurement read from a file; round trips in ms, in the order they were taken. */
export interface MeasurementFile {
  kind: MeasurementFileKind;
  summary: LinkSummary;
  roundTripsMs: number[];
}

const read = (kind: MeasurementFileKind, roundTripsMs: number[], sent: number | null): Result<MeasurementFile> =>
  good({ kind, roundTripsMs, summary: summariseRoundTrips(roundTripsMs, sent) });

/**
 * Text of ping (iputils and its relatives): one "time=12.3 ms" a reply, and the closing line with what was sent, as "6 packets
 * transmitted, 6 received" or as "Packets: Sent = 6, Received = 6".
 */
function readPing(text: string): Result<MeasurementFile> {
  const roundTrips = [...text.matchAll(/\btime[=<]([\d.]+)\s*ms(?!.*DUP!)/g)].map((match) => Number(match[1]));
  const sent = /(\d+) packets transmitted, (\d+) (?:packets )?received|\bSent = (\d+), Received = (\d+)/.exec(text);
  const [transmitted, received] = [sent?.[1] ?? sent?.[3], sent?.[2] ?? sent?.[4]];
  if (sent && Number(received) < roundTrips.length)
    return bad(
      `line ${lineOf(text, sent.index)}`,
      `counts ${received} replies but ${roundTrips.length} are listed`,
      'give the whole text of one run',
    );
  return read('ping', roundTrips, sent ? Number(transmitted) : null);
}

/** Text of `fping -C n -q`: "host : 12.3 - 11.9", a dash for each lost probe. Several hosts are refused: they are several ways. */
function readFping(text: string): Result<MeasurementFile> {
  const rows = text.split(/\r?\n/).flatMap((row, i) => {
    const match = /^(\S+)\s+:((?:\s+(?:[\d.]+|-))+)\s*$/.exec(row);
    return match ? [{ line: i + 1, cells: (match[2] as string).trim().split(/\s+/) }] : [];
  });
  if (rows.length > 1) return bad(`line ${rows[1]?.line}`, 'has a second target', 'give one target a file');
  const cells = rows[0]?.cells ?? [];
  return read('fping', cells.filter((cell) => cell !== '-').map(Number), cells.length);
}

/**
 * Text of `fping -c n`, with or without the timestamps of -D: one "host : [3], 64 bytes, 12.3 ms" a reply, lost probes as "timed
 * out" or not at all, and the closing line with what was sent ("xmt/rcv/%loss = 5/4/20%").
 */
function readFpingLines(text: string): Result<MeasurementFile> {
  const roundTrips: number[] = [];
  let [target, sent] = ['', 0];
  for (const [i, row] of text.split(/\r?\n/).entries()) {
    const probe = fpingLine.exec(row);
    const [, host = '', at = '', ms] = probe ?? [];
    if (!probe) continue;
    if (target !== '' && host !== target) return bad(`line ${i + 1}`, 'has a second target', 'give one target a file');
    target = host;
    sent = Math.max(sent, Number(at) + 1);
    if (ms !== undefined) roundTrips.push(Number(ms));
  }
  const told = /xmt\/rcv\/%loss = (\d+)\/(\d+)\//.exec(text);
  return read('fping', roundTrips, told ? Number(told[1]) : sent);
}
const fpingLine = /^(?:\[\d+\.\d+\]\s+)?(\S+)\s+: \[(\d+)\],\s+(?:\d+ bytes, ([\d.]+) ms|timed out)/;

interface Iperf {
  error?: string;
  start?: { test_start?: { reverse?: number; bidir?: number; protocol?: string } };
  end?: Record<string, { bits_per_second?: number; packets?: number; lost_packets?: number; jitter_ms?: number } | undefined>;
}

/** JSON of `iperf3 -J`: the received rate counts; -R is towards the endpoint. UDP runs also tell loss and jitter. */
function readIperf(text: string): Result<MeasurementFile> {
  let run: Iperf;
  try {
    run = JSON.parse(text) as Iperf;
  } catch (error) {
    return bad('file', `is not whole JSON (${(error as Error).message})`, 'give the whole output of iperf3 -J');
  }
  if (run.error) return bad('error', `the run failed: ${run.error}`, 'run it again');
  const end = run.end;
  const received = end?.sum_received ?? end?.sum;
  if (!end || received?.bits_per_second === undefined)
    return bad('end.sum_received', 'is missing', 'give the output of a finished run with -J');
  const mbps = received.bits_per_second / 1e6;
  const test = run.start?.test_start;
  const reverse = test?.reverse === 1;
  const back = end.sum_received_bidir_reverse?.bits_per_second;
  const udp = test?.protocol === 'UDP' ? (end.sum_received ?? end.sum) : undefined;
  const sent = udp?.packets ?? null;
  const lost = udp?.lost_packets ?? 0;
  return good({
    kind: 'iperf3',
    roundTripsMs: [],
    summary: {
      ...nothingKnown,
      sent,
      received: sent === null ? null : sent - lost,
      lossPercent: sent ? (100 * lost) / sent : null,
      jitterMs: udp?.jitter_ms ?? null,
      downMbps: reverse ? mbps : back === undefined ? null : back / 1e6,
      upMbps: reverse ? null : mbps,
    },
  });
}

/** CSV of round trips: one figure in ms a row, in a column named rtt, rtt_ms, rttMs or ms, or the only one; empty or "-" is a lost probe. */
function readCsv(text: string): Result<MeasurementFile> {
  const rows = text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .map((row) => row.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, '')));
  const head = rows[0] ?? [];
  const named = head.findIndex((cell) => /^(rtt([_ ]?ms)?|ms)$/i.test(cell));
  if (named < 0 && head.length > 1) return bad('line 1', 'has no column named rttMs', 'name the column of round trips rttMs');
  const column = Math.max(0, named);
  const headed = named >= 0 || !/^[\d.]+$|^-?$/.test(head[0] ?? '');
  const roundTrips: number[] = [];
  let sent = 0;
  for (const [i, row] of rows.entries()) {
    if ((i === 0 && headed) || (row.length === 1 && row[0] === '' && (i === rows.length - 1 || head.length > 1))) continue;
    if (row.length > head.length)
      return bad(
        `line ${i + 1}`,
        `has ${row.length} cells, the first line ${head.length}`,
        'write decimals with a point, and as many cells as in the first line',
      );
    const cell = row[column] ?? '';
    sent++;
    if (cell === '' || cell === '-') continue;
    if (!/^\d+(\.\d+)?$/.test(cell))
      return bad(`line ${i + 1}`, `“${cell}” is not a round trip in ms`, 'a number with a point, or - for a lost probe');
    roundTrips.push(Number(cell));
  }
  return read('round trips', roundTrips, sent);
}

const lineOf = (text: string, index: number) => text.slice(0, index).split('\n').length;

/** Reads a measurement file; its kind is seen from its content. */
export function readMeasurementFile(text: string): Result<MeasurementFile> {
  if (text.length > 20_000_000) return bad('file', 'is larger than 20 MB', 'give one run a file');
  const result = /^\s*\{/.test(text)
    ? readIperf(text)
    : /^(\[\d+\.\d+\]\s+)?\S+\s+: \[\d+\],|xmt\/rcv\/%loss/m.test(text)
      ? readFpingLines(text)
      : /packets transmitted|\bSent = \d+, Received = |bytes from|\btime[=<][\d.]+\s*ms/.test(text)
        ? readPing(text)
        : /^\S+\s+:(\s+([\d.]+|-))+\s*$/m.test(text)
          ? readFping(text)
          : readCsv(text);
  if (result.ok && result.value.kind !== 'iperf3' && !result.value.summary.sent && result.value.roundTripsMs.length === 0)
    return bad(
      'line 1',
      'holds no measurement that could be read',
      'give text of ping or fping, JSON of iperf3 -J, or a CSV with a column rttMs',
    );
  return result;
}
