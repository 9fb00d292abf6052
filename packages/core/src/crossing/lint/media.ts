import { catalogue, definitionOf, ignorableKeys, obeys } from '../../settings/index.js';
import { cameraMbpsOf } from '../camera.js';
import { mbit } from '../finding.js';
import { noChange } from '../../change/index.js';
import { setHere } from '../setHere.js';
import type { LintRule } from './rule.js';

/** Checks of calls, video, encoders and decoders, and of what a client follows at all. */
export const mediaRules: readonly LintRule[] = [
  {
    rule: 'a setting that the client ignores',
    about: ignorableKeys,
    detect: ({ facts, settings, isSet }) => {
      const { clientKind } = facts.endpoint;
      const key = ignorableKeys.find((each) => !obeys(each, facts.endpoint) && isSet(each) && settings[each] !== catalogue[each].default);
      if (!key) return null;
      const isKind = definitionOf(key)?.ignoredBy?.includes(clientKind);
      return {
        cause: `“${catalogue[key].label}” is set, and ${isKind ? `a ${clientKind}` : 'this device'} does not follow it`,
        consequence: 'Nothing comes of it here',
        remedy: { text: 'Use the native client, or give the setting the condition of its client kind', change: noChange },
      };
    },
  },
  {
    rule: 'two takers of one camera',
    about: ['media.callOffload', 'redirection.devices'],
    detect: ({ facts, settings }) => {
      const { endpoint, resource } = facts;
      const both = settings['media.callOffload'] && settings['redirection.devices'].includes('camera');
      if (!both || !obeys('media.callOffload', endpoint) || !endpoint.peripherals.includes('camera') || !resource.camera) return null;
      return {
        cause: 'Calls are handled on the endpoint, and its camera is let through to the host as well',
        consequence: 'Whichever takes the camera first has it; the other shows a black picture',
        remedy: setHere(facts, 'redirection.devices', ['-camera'], (where) => `Keep the camera at the desk ${where}`),
      };
    },
  },
  {
    rule: 'video played where nothing decodes it',
    about: ['media.videoOffload'],
    detect: ({ facts, settings }) => {
      const { decoders, id } = facts.endpoint;
      if (!settings['media.videoOffload'] || !obeys('media.videoOffload', facts.endpoint) || decoders?.length !== 0) return null;
      return {
        cause: `Video is played on ${id}, which has no hardware decoder`,
        consequence: 'Its processor decodes: it stutters, and the rest waits',
        remedy: setHere(facts, 'media.videoOffload', false, (where) => `Play video in the session ${where}`),
      };
    },
  },
  {
    rule: 'a camera picture that the line does not carry',
    about: ['media.cameraHeight'],
    detect: ({ facts, settings }) => {
      const { resource, endpoint, line } = facts;
      const asks = cameraMbpsOf(settings, endpoint);
      if (!resource.camera || !endpoint.peripherals.includes('camera') || line.upMbps === undefined || asks <= line.upMbps) return null;
      return {
        cause: `A camera picture of ${settings['media.cameraHeight']} lines asks ${mbit(asks)}, and the line sends ${mbit(line.upMbps)}`,
        consequence: 'The picture of the person breaks off, and their voice with it',
        remedy: setHere(facts, 'media.cameraHeight', 360, (where) => `Send 360 lines ${where}`),
      };
    },
  },
  {
    rule: 'encoding on a card that no host has',
    about: ['picture.hardwareEncode'],
    detect: ({ facts, settings, isSet }) => {
      const { hosts, pool } = facts;
      const known = hosts.filter(({ graphics }) => graphics);
      const none = known.length === hosts.length && hosts.length > 0 && known.every(({ graphics }) => !graphics?.encoder);
      if (!settings['picture.hardwareEncode'] || !isSet('picture.hardwareEncode') || !none) return null;
      return {
        cause: `The picture is to be encoded on the card, and no host of ${pool.name} has an encoder`,
        consequence: 'Their processors encode, and fewer people fit on a host',
        remedy: setHere(facts, 'picture.hardwareEncode', false, (where) => `Say so ${where}, and reckon with the processor`),
      };
    },
  },
  {
    rule: 'decoders that are not used',
    about: ['picture.hardwareDecode'],
    detect: ({ facts, settings, session: { codec } }) => {
      const { decoders, id } = facts.endpoint;
      if (settings['picture.hardwareDecode'] || !decoders?.some((each) => each.codec === codec)) return null;
      return {
        cause: `${id} has a decoder for ${codec}, and is told not to use it`,
        consequence: 'Its processor decodes: fewer frames, a warm device',
        remedy: setHere(facts, 'picture.hardwareDecode', true, (where) => `Decode in hardware ${where}`),
      };
    },
  },
];
