export * from './catalogue/index.js';
export * from './version.js';
export * from './subject.js';
export * from './resolve.js';
export * from './faultOfSetting.js';
