export { decodeDhcp, shortLeaseS, typeOf, type Decoded } from './decode.js';
export { bytesOf, encodeDhcp, type MessageToSend } from './encode.js';
export type { DhcpMessage, DhcpOption, DhcpProblem } from './message.js';
export { messageTypes, optionName, optionType, type OptionType } from './options.js';
export { readDhcp, type DhcpEntry, type DhcpReading } from './read.js';
export { hexText, optionValue } from './values.js';
export { answers, asks, isLastAsked, isShort, optionsFor, rangeAddresses, rangeOf, usualLeaseS, type Asking } from './scope.js';
