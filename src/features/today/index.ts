export {
  answersPerDay,
  averages,
  goingOutNext,
  leftOut,
  marksOfDay,
  needing,
  type Span,
  tally,
  trouble,
  waitingCount,
} from "./queries";
