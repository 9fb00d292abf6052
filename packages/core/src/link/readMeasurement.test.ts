import { describe, expect, test } from '@jest/globals';
import { readMeasurementFile } from './index.js';

const good = (text: string) => {
  const result = readMeasurementFile(text);
  if (!result.ok) throw new Error(JSON.stringify(result.fault));
  return result.value;
};
const fault = (text: string) => {
  const result = readMeasurementFile(text);
  if (result.ok) throw new Error('was read');
  return [result.fault.place, result.fault.problem, result.fault.remedy];
};
const counts = (text: string) => {
  const { kind, roundTripsMs, summary } = good(text);
  return [kind, roundTripsMs, summary.sent, summary.received];
};

describe('ping', () => {
  test('each reply once, whatever its notation; a duplicate is none; without a closing line nothing is said of what was sent', () => {
    const replies =
      '64 bytes from 192.0.2.1: icmp_seq=1 ttl=60 time=12.3 ms\nReply: time<1ms\n64 bytes from 192.0.2.1: icmp_seq=1 time=14 ms (DUP!)\n';
    expect(counts(replies)).toEqual(['ping', [12.3, 1], null, 2]);
    expect(counts(`${replies}12 packets transmitted, 10 received, 16% packet loss`)).toEqual(['ping', [12.3, 1], 12, 2]);
    expect(counts('time=5 ms\n11 packets transmitted, 10 packets received')).toEqual(['ping', [5], 11, 1]);
    expect(good(`${replies}4 packets transmitted, 2 received`).summary.lossPercent).toBe(50);
    // nothing came back: that is a measurement too
    expect(counts('PING 192.0.2.1\n5 packets transmitted, 0 received, 100% packet loss')).toEqual(['ping', [], 5, 0]);
  });

  test('more replies than the closing line counts are of more than one run; the line is told', () => {
    expect(fault('bytes from x: time=1 ms\nbytes from x: time=2 ms\n\n2 packets transmitted, 1 received')).toEqual([
      'line 4',
      'counts 1 replies but 2 are listed',
      'give the whole text of one run',
    ]);
  });
});

describe('ping that counts in words', () => {
  test('“Sent = 4, Received = 3” is the closing line too', () => {
    const replies = 'Reply from 192.0.2.1: bytes=32 time=12ms TTL=57\nRequest timed out.\nReply from 192.0.2.1: bytes=32 time<1ms TTL=57\n';
    expect(counts(`${replies}\n    Packets: Sent = 3, Received = 2, Lost = 1 (33% loss),`)).toEqual(['ping', [12, 1], 3, 2]);
    expect(fault(`${replies}Packets: Sent = 3, Received = 1, Lost = 2`)).toEqual([
      'line 4',
      'counts 1 replies but 2 are listed',
      'give the whole text of one run',
    ]);
    expect(counts('Packets: Sent = 4, Received = 0, Lost = 4')).toEqual(['ping', [], 4, 0]);
  });
});

describe('fping, a line a probe', () => {
  test('with timestamps or without, lost probes told or left out', () => {
    const rows = '[1.5] gw : [0], 64 bytes, 12.1 ms (12.1 avg, 0% loss)\n[1.6] gw : [1], timed out (12.1 avg, 50% loss)\n';
    expect(counts(rows)).toEqual(['fping', [12.1], 2, 1]);
    expect(counts('gw : [0], 64 bytes, 12.1 ms (12.1 avg, 0% loss)\r\ngw : [4], 64 bytes, 11 ms (11 avg, 60% loss)')).toEqual([
      'fping',
      [12.1, 11],
      5,
      2,
    ]);
    expect(counts(`${rows}\ngw : xmt/rcv/%loss = 6/1/83%, min/avg/max = 12.1/12.1/12.1`)).toEqual(['fping', [12.1], 6, 1]);
    expect(counts('\ngw : xmt/rcv/%loss = 3/0/100%')).toEqual(['fping', [], 3, 0]);
    expect(fault(`${rows}[1.7] other : [0], 64 bytes, 3 ms (3 avg, 0% loss)`)).toEqual([
      'line 3',
      'has a second target',
      'give one target a file',
    ]);
  });
});

describe('fping', () => {
  test('one target a file, with or without carriage returns; a dash is a lost probe', () => {
    expect(counts('gw.example  :  12.1  -  11\r\n')).toEqual(['fping', [12.1, 11], 3, 2]);
    expect(counts('# taken at noon\ngw : 1 2 -\nsome words after')).toEqual(['fping', [1, 2], 3, 2]);
    expect(fault('gw : 1 2\nother : 3 4\n')).toEqual(['line 2', 'has a second target', 'give one target a file']);
  });
});

describe('iperf3', () => {
  const run = (end: object, start: object = {}) => JSON.stringify({ start: { test_start: start }, end });
  const summaryOf = (end: object, start: object = {}) => good(run(end, start)).summary;

  test('what was received counts; -R is towards the endpoint; both ways at once are both', () => {
    const received = { sum_received: { bits_per_second: 25e6 }, sum: { bits_per_second: 99e6 } };
    expect(summaryOf(received)).toMatchObject({
      upMbps: 25,
      downMbps: null,
      sent: null,
      received: null,
      lossPercent: null,
      jitterMs: null,
    });
    expect(summaryOf(received, { reverse: 1 })).toMatchObject({ upMbps: null, downMbps: 25 });
    expect(summaryOf({ ...received, sum_received_bidir_reverse: { bits_per_second: 40e6 } }, { bidir: 1 })).toMatchObject({
      upMbps: 25,
      downMbps: 40,
    });
    expect(good(run(received))).toMatchObject({ kind: 'iperf3', roundTripsMs: [] });
    // a run without its beginning is read too
    expect(good(JSON.stringify({ end: received })).summary.upMbps).toBe(25);
  });

  test('over UDP what was lost, and the jitter; over TCP packets are not told', () => {
    const sum = { bits_per_second: 5e6, packets: 200, lost_packets: 10, jitter_ms: 0.7 };
    expect(summaryOf({ sum }, { protocol: 'UDP' })).toMatchObject({ sent: 200, received: 190, lossPercent: 5, jitterMs: 0.7, upMbps: 5 });
    expect(summaryOf({ sum_received: sum, sum: { ...sum, packets: 1 } }, { protocol: 'UDP' }).sent).toBe(200);
    expect(summaryOf({ sum: { ...sum, lost_packets: undefined } }, { protocol: 'UDP' })).toMatchObject({ received: 200, lossPercent: 0 });
    expect(summaryOf({ sum }, { protocol: 'TCP' })).toMatchObject({ sent: null, jitterMs: null });
  });

  test('what is not whole, failed or unfinished is told with the field', () => {
    const [place, problem, remedy] = fault('{"end": {');
    expect([place, remedy]).toEqual(['file', 'give the whole output of iperf3 -J']);
    expect(problem).toMatch(/^is not whole JSON \(.+\)$/);
    expect(fault('  {"error": "no route"}')).toEqual(['error', 'the run failed: no route', 'run it again']);
    for (const text of ['{}', '{"end": {}}', '{"end": {"sum_received": {}}}', '{"end": {"sum": {"packets": 3}}}'])
      expect(fault(text)).toEqual(['end.sum_received', 'is missing', 'give the output of a finished run with -J']);
  });
});

describe('CSV', () => {
  test.each([['rtt'], ['RTT'], ['rttMs'], ['rtt_ms'], ['rtt ms'], ['ms']])('the column %s is read wherever it stands', (name) => {
    expect(counts(`n,${name},note\n1,10.5,x\n2,-,\n3,,y\n4,11,\n`)).toEqual(['round trips', [10.5, 11], 4, 2]);
    expect(counts(`${name};n\n7;1\n8;2`)).toEqual(['round trips', [7, 8], 2, 2]);
  });

  test('one column needs no name; tabs, quotes, a byte-order mark and an end without a line are fine', () => {
    expect(counts('10\n11.25\n-\n12')).toEqual(['round trips', [10, 11.25, 12], 4, 3]);
    expect(counts('anything\n10\n11\n')).toEqual(['round trips', [10, 11], 2, 2]);
    expect(counts('\uFEFF"n"\t"ms"\n"1"\t"10"\n')).toEqual(['round trips', [10], 1, 1]);
    expect(counts('-\n5\n')).toEqual(['round trips', [5], 2, 1]);
    // an empty line in the middle of a single column is a lost probe, and none of a table
    expect(counts('ms\n5\n\n6\n')).toEqual(['round trips', [5, 6], 3, 2]);
    expect(counts('n,ms\n1,5\n\n2,6\n')).toEqual(['round trips', [5, 6], 2, 2]);
  });

  test('a table without the column, and a cell that is no round trip, are told with the line', () => {
    expect(fault('a,b\n1,2\n')).toEqual(['line 1', 'has no column named rttMs', 'name the column of round trips rttMs']);
    for (const name of ['rttx', 'xrtt', 'rttsms', 'msec']) expect(fault(`a,${name}\n1,2\n`)[0]).toBe('line 1');
    for (const cell of ['1,5', '-5', '5.', '.5', 'x5', '5x', '1e3'])
      expect(fault(`ms\n4\n${cell.includes(',') ? `"${cell}"` : cell}\n`).slice(0, 1)).toEqual(['line 3']);
    // a decimal comma would make two cells, and the first of them a wrong figure
    expect(fault('ms\n4\n1,5\n')).toEqual([
      'line 3',
      'has 2 cells, the first line 1',
      'write decimals with a point, and as many cells as in the first line',
    ]);
    expect(fault('ms\n4\nfast\n')).toEqual(['line 3', '“fast” is not a round trip in ms', 'a number with a point, or - for a lost probe']);
  });

  test('a text without any measurement is told what would be one; one that is too large is not read', () => {
    for (const text of ['', 'hello', 'hello world\n', 'packets'])
      expect(fault(text)).toEqual([
        'line 1',
        'holds no measurement that could be read',
        'give text of ping or fping, JSON of iperf3 -J, or a CSV with a column rttMs',
      ]);
    expect(fault('1'.repeat(20_000_001))).toEqual(['file', 'is larger than 20 MB', 'give one run a file']);
    expect(counts('1\n'.repeat(3))).toEqual(['round trips', [1, 1, 1], 3, 3]);
  });
});
