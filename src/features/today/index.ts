export {
  answersPerDay,
  averages,
  goingOutNext,
  leftOut,
  marksOfDay,
  needing,
  problems,
  type Span,
  tally,
  waitingCount,
} from "./queries";
export { loadTodayView, type TodayView } from "./todayView";
