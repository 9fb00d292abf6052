export * from './catalogue/index.js';
export * from './version.js';
export * from './subject.js';
export * from './resolve.js';
export * from './faultOfSetting.js';
export * from './tidy.js';
export * from './profile.js';
