import { figureOf, onOff } from './definition.js';

/** Calls, video and camera. */
export const mediaSettings = {
  'media.callOffload': onOff({
    label: 'Call sound',
    does: 'Handle calls on the endpoint instead of the host',
    default: false,
    ignoredBy: ['browser'],
    symptoms: ['calls sound bad', 'voice late', 'camera in use'],
  }),
  'media.videoOffload': onOff({
    label: 'Video',
    does: 'Play video on the endpoint instead of the host',
    default: false,
    ignoredBy: ['browser'],
    symptoms: ['video stutters', 'line full'],
  }),
  'media.cameraHeight': figureOf({
    label: 'Camera picture',
    does: 'Height of the camera picture that is sent',
    unit: 'lines',
    min: 180,
    max: 1080,
    steps: [360, 720, 1080],
    default: 720,
    symptoms: ['camera picture breaks off', 'line full'],
  }),
  'media.cameraFrames': figureOf({
    label: 'Camera frames',
    does: 'Frames a second of the camera picture that is sent',
    unit: 'a second',
    min: 5,
    max: 30,
    steps: [10, 15, 30],
    default: 30,
    symptoms: ['camera picture breaks off', 'camera picture jerky'],
  }),
  'media.videoFrames': figureOf({
    label: 'Frames of video',
    does: 'Most frames a second of what moves by itself; the rest keeps the frame rate',
    unit: 'a second',
    min: 5,
    max: 120,
    steps: [10, 15, 30, 120],
    default: 120,
    source: 'our default: no limit of its own',
    symptoms: ['video stutters', 'line full'],
  }),
  'media.calmAnimated': onOff({
    label: 'Calm moving pages',
    does: 'Shows moving advertisements and pictures in pages at half their pace',
    default: false,
    symptoms: ['line full', 'pages heavy'],
  }),
};
