export { claimNotices, deliverNotice, enqueueNotice, lastNotice, type Notice, sayTold } from "./service";
