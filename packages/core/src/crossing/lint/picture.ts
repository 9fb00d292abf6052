import { figure, mbit } from '../finding.js';
import { setHere } from '../setHere.js';
import { thresholdsFor } from '../thresholds.js';
import { needsDecoder } from '../../screens/index.js';
import type { LintRule } from './rule.js';

/** Checks of the picture and the screens. */
export const pictureRules: readonly LintRule[] = [
  {
    rule: 'full colours without a decoder for them',
    about: ['picture.chroma', 'picture.codec'],
    detect: ({ facts, settings, session: { codec } }) => {
      const { decoders } = facts.endpoint;
      if (settings['picture.chroma'] !== '4:4:4' || !needsDecoder(codec) || !decoders || decoders.length === 0) return null;
      if (decoders.some((each) => each.codec === codec && each.chroma444)) return null;
      return {
        cause: `4:4:4 is asked for, and no decoder of ${facts.endpoint.id} takes ${codec} in it`,
        consequence: 'The processor decodes instead: fewer frames, a warm device',
        remedy: setHere(facts, 'picture.chroma', '4:2:0', (where) => `Use 4:2:0 ${where}`),
      };
    },
  },
  {
    rule: 'a codec without a decoder for it',
    about: ['picture.codec'],
    detect: ({ facts, session: { codec }, isSet }) => {
      const { decoders } = facts.endpoint;
      if (!isSet('picture.codec') || !needsDecoder(codec) || !decoders || decoders.length === 0) return null;
      if (decoders.some((each) => each.codec === codec)) return null;
      return {
        cause: `${codec} is set, and no decoder of ${facts.endpoint.id} takes it`,
        consequence: 'The processor decodes instead: fewer frames',
        remedy: setHere(facts, 'picture.codec', 'h264', (where) => `Use h264 ${where}`),
      };
    },
  },
  {
    rule: 'a codec that the gateway does not pass',
    about: ['picture.codec'],
    detect: ({ facts, settings, session }) =>
      session.codec === settings['picture.codec']
        ? null
        : {
            cause: `${settings['picture.codec']} is asked for, and ${facts.gateway.name} passes ${facts.gateway.codecs.join(', ')}`,
            consequence: `${session.codec} is used instead, whatever the setting says`,
            remedy: setHere(facts, 'picture.codec', session.codec, (where) => `Set ${session.codec} ${where}, so that it says what is so`),
          },
  },
  {
    rule: 'more frames than the screens show',
    about: ['picture.frameCap'],
    detect: ({ facts, settings, session: { screens }, isSet }) => {
      const rates = screens.map(({ refreshHz }) => refreshHz);
      const most = Math.max(...rates.map((rate) => rate ?? Infinity));
      if (!isSet('picture.frameCap') || settings['picture.frameCap'] <= most) return null;
      return {
        cause: `Up to ${settings['picture.frameCap']} frames a second are sent, and the screens show ${figure(most)}`,
        consequence: 'What is sent beyond is never seen, and takes of the line',
        remedy: setHere(
          facts,
          'picture.frameCap',
          Math.max(5, Math.floor(most)),
          (where) => `Send ${Math.max(5, Math.floor(most))} ${where}`,
        ),
      };
    },
  },
  {
    rule: 'fewer frames than the work wants',
    about: ['picture.frameCap'],
    detect: ({ facts, settings, isSet }) => {
      const { framesAtLeast } = thresholdsFor(facts.estate.organisation, facts.resource.work);
      if (!isSet('picture.frameCap') || settings['picture.frameCap'] >= framesAtLeast) return null;
      return {
        cause: `At most ${settings['picture.frameCap']} frames a second are sent, and the work in ${facts.resource.name} wants ${framesAtLeast}`,
        consequence: 'It cannot be Clear, however good the line is',
        remedy: setHere(facts, 'picture.frameCap', framesAtLeast, (where) => `Send ${framesAtLeast} ${where}`),
      };
    },
  },
  {
    rule: 'few colours, and exact',
    about: ['picture.colourDepth', 'picture.qualityFloor'],
    detect: ({ facts, settings }) =>
      settings['picture.colourDepth'] !== 16 || settings['picture.qualityFloor'] < 1
        ? null
        : {
            cause: 'Colours have 16 bit, and the picture is to be exact (quality floor 1)',
            consequence: 'It is refined to something that is not exact: bits are spent, and bands stay in every shade',
            remedy: setHere(facts, 'picture.colourDepth', 32, (where) => `Use 32 bit ${where}`),
          },
  },
  {
    rule: 'few colours with a codec that has them all',
    about: ['picture.colourDepth', 'picture.codec'],
    detect: ({ facts, settings, session: { codec } }) =>
      settings['picture.colourDepth'] !== 16 || !needsDecoder(codec)
        ? null
        : {
            cause: `Colours have 16 bit, and ${codec} is coded with all of them`,
            consequence: 'Nothing is saved: only bitmap and progressive get smaller by it',
            remedy: setHere(facts, 'picture.colourDepth', 32, (where) => `Use 32 bit ${where}`),
          },
  },
  {
    rule: 'a fixed size larger than the screen',
    about: ['picture.resolution', 'picture.fixedSize'],
    detect: ({ facts, settings, session }) => {
      if (settings['picture.resolution'] !== 'fixed' || !session.native) return null;
      const odd = session.screens.find((each) => each.widthPx > each.nativeWidthPx || each.heightPx > each.nativeHeightPx);
      if (!odd) return null;
      return {
        cause: `The session is fixed at ${odd.widthPx} × ${odd.heightPx}, and a screen has ${odd.nativeWidthPx} × ${odd.nativeHeightPx}`,
        consequence: 'It is seen through scroll bars, or blurred',
        remedy: setHere(facts, 'picture.resolution', 'native', (where) => `Use the native size ${where}`),
      };
    },
  },
  {
    rule: 'a fixed size that is not used',
    about: ['picture.fixedSize', 'picture.resolution'],
    detect: ({ facts, settings, isSet }) =>
      !isSet('picture.fixedSize') || settings['picture.resolution'] === 'fixed'
        ? null
        : {
            cause: `A fixed size of ${settings['picture.fixedSize']} is set, and the resolution is “${settings['picture.resolution']}”`,
            consequence: 'The fixed size does nothing',
            remedy: setHere(facts, 'picture.resolution', 'fixed', (where) => `Fix the resolution ${where}, or take the size away`),
          },
  },
  {
    rule: 'screens held at a height that none has',
    about: ['picture.heldHeight'],
    detect: ({ facts, settings, session, isSet }) => {
      const { native } = session;
      if (!isSet('picture.heldHeight') || !native || native.length === 0) return null;
      const tallest = Math.max(...native.map(({ widthPx, heightPx }) => Math.min(widthPx, heightPx)));
      if (tallest > settings['picture.heldHeight'] || settings['picture.heldHeight'] === 4320) return null;
      return {
        cause: `Screens are held at ${settings['picture.heldHeight']} lines, and the tallest has ${tallest}`,
        consequence: 'It does nothing here',
        remedy: setHere(facts, 'picture.heldHeight', 4320, (where) => `Do not hold screens ${where}`),
      };
    },
  },
  {
    rule: 'more screens than the client takes',
    about: ['screens.most', 'screens.use'],
    detect: ({ facts, settings, session: { limits }, isSet }) =>
      !isSet('screens.most') || settings['screens.use'] === 'one' || settings['screens.most'] <= limits.screens
        ? null
        : {
            cause: `Up to ${settings['screens.most']} screens are meant, and a ${facts.endpoint.clientKind} takes ${limits.screens}`,
            consequence: 'The others stay dark',
            remedy: setHere(facts, 'screens.most', limits.screens, (where) => `Say ${limits.screens} ${where}`),
          },
  },
  {
    rule: 'several screens where one is used',
    about: ['screens.most', 'screens.use'],
    detect: ({ facts, settings, isSet }) =>
      !isSet('screens.most') || settings['screens.use'] !== 'one' || settings['screens.most'] === 1
        ? null
        : {
            cause: `Up to ${settings['screens.most']} screens are meant, and the session uses one`,
            consequence: 'The number does nothing',
            remedy: setHere(facts, 'screens.use', 'all', (where) => `Use all screens ${where}`),
          },
  },
  {
    rule: 'a cap below what the picture asks',
    about: ['transport.capMbps', 'picture.frameCap'],
    detect: ({ facts, settings, demand }) =>
      settings['transport.capMbps'] >= demand.meanMbps
        ? null
        : {
            cause: `A session may take ${mbit(settings['transport.capMbps'])}, and its picture asks ${mbit(demand.meanMbps)} on average`,
            consequence: 'Frames are left out all the time, on any line',
            remedy: setHere(
              facts,
              'transport.capMbps',
              Math.ceil(demand.p95Mbps),
              (where) => `Allow ${mbit(Math.ceil(demand.p95Mbps))} ${where}`,
            ),
          },
  },
  {
    rule: 'the finest picture on a line that is paid by volume',
    about: ['picture.qualityFloor'],
    detect: ({ facts, settings, demand }) =>
      !facts.line.metered || settings['picture.qualityFloor'] < 1
        ? null
        : {
            cause: `The picture is to be exact, and the line at ${facts.location.name} is paid by volume`,
            consequence: `About ${figure(demand.meanMbps * 0.45)} GB an hour are paid for`,
            remedy: setHere(facts, 'picture.qualityFloor', 0.85, (where) => `Ask for 0.85 ${where}`),
          },
  },
];
