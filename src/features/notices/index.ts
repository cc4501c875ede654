export { claimNotices, deliverNotice, enqueueNotice, lastNotice, type Notice, sayTold } from "./service";
export { rightsAt, type Staff, staffOf } from "./staff";
export {
  choiceOf,
  claimTellings,
  deliverTellings,
  keepChoice,
  recentTellings,
  tell,
} from "./tell";
