export { claimNotices, handOverNotice, lastNotice, type Notice, sayTold, tell } from "./service";
