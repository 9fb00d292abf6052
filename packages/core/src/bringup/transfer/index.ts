export { shareBy, worksAt } from './share.js';
export { planTransfer, withoutResumingS, type Transfer, type TransferHour, type TransferPlan, type TransferWay } from './transfer.js';
