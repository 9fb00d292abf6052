import { voiceCodecs } from '@underpass/core';
import { link, picture, throughput, voice, wifiRate } from '../calculators.js';
import { known, type CommandWords } from './words.js';

/** Commands that work out one figure by its formula. */
export const ofCalculators: readonly CommandWords[] = [
  {
    name: 'link',
    does: 'Reads a measurement of a line: text of ping or fping, JSON of iperf3, or a CSV of round trips.',
    takes: [['FILE', 'file of the measurement']],
    options: [],
    examples: ['link ping.txt', 'link iperf3.json --json'],
    digits: known,
    run: link,
  },
  {
    name: 'voice',
    does: 'How a voice sounds over a line, by the E-model of ITU-T G.107.',
    options: [
      { name: 'delay', takes: 'MS', says: 'delay from mouth to ear, 0 to 10000 ms' },
      { name: 'loss', takes: 'PERCENT', says: 'packets lost, 0 to 100' },
      { name: 'codec', takes: 'CODEC', says: `one of ${Object.keys(voiceCodecs).join(', ')}`, without: 'g711-plc' },
      { name: 'burst', takes: 'R', says: 'burst ratio of the loss, 1 to 100', without: '1, loss at random' },
    ],
    examples: ['voice --delay 150 --loss 1'],
    digits: known,
    run: voice,
  },
  {
    name: 'throughput',
    does: 'What one connection gets through a line that loses packets.',
    options: [
      { name: 'rtt', takes: 'MS', says: 'round trip, 0 to 120000 ms' },
      { name: 'loss', takes: 'PERCENT', says: 'packets lost, 0 to 100' },
      { name: 'mss', takes: 'BYTES', says: 'bytes of a segment, 1 to 65535', without: '1460' },
      { name: 'window', takes: 'BYTES', says: 'largest window, for what it allows', without: 'not told' },
    ],
    examples: ['throughput --rtt 100 --loss 1 --window 65535'],
    digits: known,
    run: throughput,
  },
  {
    name: 'wifi-rate',
    does: 'The rate of a Wi-Fi link by its standard, width, scheme, streams and guard interval.',
    options: [
      { name: 'standard', takes: 'ht|vht|he', says: '802.11n, ac or ax' },
      { name: 'width', takes: 'MHZ', says: 'channel width: 20, 40, 80 or 160' },
      { name: 'mcs', takes: 'N', says: 'modulation and coding scheme' },
      { name: 'streams', takes: 'N', says: 'spatial streams' },
      { name: 'gi', takes: 'NS', says: 'guard interval: 400 or 800; of he 800, 1600 or 3200' },
    ],
    examples: ['wifi-rate --standard he --width 80 --mcs 9 --streams 2 --gi 800'],
    run: wifiRate,
  },
  {
    name: 'picture',
    does: 'What a picture asks of the line, of its first frame and of a decoder.',
    options: [
      { name: 'width', takes: 'PX', says: 'width of the picture, 16 to 16384' },
      { name: 'height', takes: 'PX', says: 'its height, 16 to 16384' },
      { name: 'fps', takes: 'N', says: 'frames a second, 1 to 240', without: '30' },
      { name: 'codec', takes: 'CODEC', says: 'bitmap, progressive, h264, hevc or av1', without: 'h264' },
      { name: 'chroma', takes: '420|444', says: 'detail of colour, 4:2:0 or 4:4:4', without: '420' },
      {
        name: 'content',
        takes: 'CLASS',
        says: 'still, text, window, page-video, video or motion all the time',
        without: 'ordinary work with some video',
      },
    ],
    examples: ['picture --width 1920 --height 1080', 'picture --width 3840 --height 2160 --fps 60 --content motion'],
    digits: known,
    run: picture,
  },
];
