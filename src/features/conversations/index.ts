export { awayWords, confirmWish, sayAwayWord, sayHelp, sayOpening, setStopped } from "./automatic";
export { answerConversation, writeToPerson } from "./letters";
export {
  CONVERSATIONS_PAGE,
  type ConversationFilter,
  type ConversationState,
  conversationCounts,
  conversationOf,
  type Exchanged,
  type ListedConversation,
  listConversations,
  MOST_SHOWN,
  overdueConversations,
  viewConversation,
  waitingConversations,
  whenOf,
  withPictures,
} from "./queries";
export {
  assignConversation,
  type Conversation,
  identify,
  markConversation,
  noteIncoming,
  openConversation,
  type Refusal,
  setConversationAside,
  settle,
  takeStopDoubt,
} from "./service";
export { bringSharedTexts, type IncomingText, listSharedTexts, routeIncoming, type SharedText } from "./shared";
