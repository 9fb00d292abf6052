import { keptOutside } from './desk/keptOutside.js';
import { modeExceedsPort } from './desk/modeExceedsPort.js';
import { peripheralNoWay } from './desk/peripheralNoWay.js';
import { refreshBelowCap } from './desk/refreshBelowCap.js';
import { scalesDiffer } from './desk/scalesDiffer.js';
import { screensExceedClient } from './desk/screensExceedClient.js';
import { screensLeftOut } from './desk/screensLeftOut.js';
import { screensNotKnown } from './desk/screensNotKnown.js';
import { sessionNotScreenSize } from './desk/sessionNotScreenSize.js';
import { assumedDecides } from './endpoint/assumedDecides.js';
import { clientTooOld } from './endpoint/clientTooOld.js';
import { decodeBudget } from './endpoint/decodeBudget.js';
import { decodersNotKnown } from './endpoint/decodersNotKnown.js';
import { drawnByProcessor } from './endpoint/drawnByProcessor.js';
import { memoryShort } from './endpoint/memoryShort.js';
import { noHardwareDecode } from './endpoint/noHardwareDecode.js';
import { personalDevice } from './endpoint/personalDevice.js';
import { versionNotKnown } from './endpoint/versionNotKnown.js';
import { capTooLow } from './gateway/capTooLow.js';
import { certificateEndsSoon } from './gateway/certificateEndsSoon.js';
import { certificateExpired } from './gateway/certificateExpired.js';
import { certificateNotKnown } from './gateway/certificateNotKnown.js';
import { certificateNotTrusted } from './gateway/certificateNotTrusted.js';
import { certificateNotYet } from './gateway/certificateNotYet.js';
import { certificateOtherName } from './gateway/certificateOtherName.js';
import { defaultCredentials } from './gateway/defaultCredentials.js';
import { defaultPassword } from './endpoint/defaultPassword.js';
import { settingIgnored } from './endpoint/settingIgnored.js';
import { detourByGateway } from './gateway/detourByGateway.js';
import { fewColours } from './gateway/fewColours.js';
import { gateClosed } from './gateway/gateClosed.js';
import { gatewayFar } from './gateway/gatewayFar.js';
import { gatewayLacks } from './gateway/gatewayLacks.js';
import { guestEndsSoon } from './gateway/guestEndsSoon.js';
import { guestNotRecorded } from './gateway/guestNotRecorded.js';
import { noCommonSecurity } from './gateway/noCommonSecurity.js';
import { secondFactorClose } from './gateway/secondFactorClose.js';
import { secondFactorTooShort } from './gateway/secondFactorTooShort.js';
import { soundKeptOff } from './gateway/soundKeptOff.js';
import { tlsNotKnown } from './gateway/tlsNotKnown.js';
import { typesAgain } from './gateway/typesAgain.js';
import { encoderShared } from './host/encoderShared.js';
import { fewFrames } from './host/fewFrames.js';
import { graphicsNotKnown } from './host/graphicsNotKnown.js';
import { graphicsNotReady } from './host/graphicsNotReady.js';
import { hostAsleep } from './host/hostAsleep.js';
import { hostsNotKnown } from './host/hostsNotKnown.js';
import { hostsOff } from './host/hostsOff.js';
import { noFreePlace } from './host/noFreePlace.js';
import { regionFar } from './host/regionFar.js';
import { slowAltogether } from './host/slowAltogether.js';
import { sourceSlow } from './host/sourceSlow.js';
import { belowLight } from './link/belowLight.js';
import { declaredContradicted } from './link/declaredContradicted.js';
import { delayUnderLoad } from './link/delayUnderLoad.js';
import { lineLoses } from './link/lineLoses.js';
import { lineNotMeasured } from './link/lineNotMeasured.js';
import { lineTooNarrow } from './link/lineTooNarrow.js';
import { lineUnsteady } from './link/lineUnsteady.js';
import { lossLimitsRate } from './link/lossLimitsRate.js';
import { meteredVideo } from './link/meteredVideo.js';
import { noWayStraight } from './link/noWayStraight.js';
import { roundTripTooLong } from './link/roundTripTooLong.js';
import { udpDoesNotPass } from './link/udpDoesNotPass.js';
import { uploadTooNarrow } from './link/uploadTooNarrow.js';
import { voicePoor } from './link/voicePoor.js';
import { wrongVantage } from './link/wrongVantage.js';
import { unsteadyBeforeLine } from './network/unsteadyBeforeLine.js';
import { wifiSignalLow } from './network/wifiSignalLow.js';
import { wifiTooSlow } from './network/wifiTooSlow.js';
import { callThroughHost } from './workspace/callThroughHost.js';
import { desktopForOneApp } from './workspace/desktopForOneApp.js';
import { desktopsClash } from './workspace/desktopsClash.js';
import { notEntitled } from './workspace/notEntitled.js';
import { profileLarge } from './workspace/profileLarge.js';
import { publicationUnattached } from './workspace/publicationUnattached.js';
import { sessionLeftBehind } from './workspace/sessionLeftBehind.js';
import { signonNotKnown } from './workspace/signonNotKnown.js';
import { slowToUsable } from './workspace/slowToUsable.js';
import { videoInside } from './workspace/videoInside.js';
import type { FindingKind } from '../finding.js';

/** Every kind of finding, by bay. A new kind is one file in a bay's folder and its line here. */
export const findingKinds: readonly FindingKind[] = [
  keptOutside,
  modeExceedsPort,
  peripheralNoWay,
  refreshBelowCap,
  scalesDiffer,
  screensExceedClient,
  screensLeftOut,
  screensNotKnown,
  sessionNotScreenSize,
  clientTooOld,
  decodeBudget,
  decodersNotKnown,
  drawnByProcessor,
  memoryShort,
  noHardwareDecode,
  personalDevice,
  versionNotKnown,
  assumedDecides,
  unsteadyBeforeLine,
  wifiSignalLow,
  belowLight,
  declaredContradicted,
  delayUnderLoad,
  lineNotMeasured,
  lineLoses,
  lineUnsteady,
  lineTooNarrow,
  capTooLow,
  wifiTooSlow,
  lossLimitsRate,
  meteredVideo,
  noWayStraight,
  roundTripTooLong,
  udpDoesNotPass,
  uploadTooNarrow,
  wrongVantage,
  certificateEndsSoon,
  certificateExpired,
  certificateNotTrusted,
  certificateNotYet,
  certificateOtherName,
  defaultCredentials,
  defaultPassword,
  settingIgnored,
  detourByGateway,
  fewColours,
  gateClosed,
  gatewayFar,
  gatewayLacks,
  guestEndsSoon,
  guestNotRecorded,
  noCommonSecurity,
  secondFactorTooShort,
  soundKeptOff,
  typesAgain,
  encoderShared,
  graphicsNotKnown,
  graphicsNotReady,
  hostAsleep,
  hostsOff,
  noFreePlace,
  regionFar,
  sourceSlow,
  callThroughHost,
  desktopForOneApp,
  desktopsClash,
  notEntitled,
  profileLarge,
  publicationUnattached,
  sessionLeftBehind,
  signonNotKnown,
  slowToUsable,
  videoInside,
  certificateNotKnown,
  hostsNotKnown,
  secondFactorClose,
  tlsNotKnown,
  slowAltogether,
  fewFrames,
  voicePoor,
];
