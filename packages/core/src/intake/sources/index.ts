export {
  arrived,
  classOf,
  orderFor,
  originsOf,
  typed,
  type Arrival,
  type Held,
  type Origin,
  type SaidField,
  type SaidFields,
  type SaidOf,
} from './sources.js';
