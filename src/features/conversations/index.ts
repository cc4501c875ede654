export { awayWords, confirmWish, sayAwayWord, sayHelp, sayOpening, setStopped } from "./automatic";
export {
  CONVERSATIONS_PAGE,
  type ConversationFilter,
  type ConversationState,
  conversationOf,
  countConversations,
  type Exchanged,
  type ListedConversation,
  listConversations,
  MOST_SHOWN,
  viewConversation,
  waitingConversations,
  whenOf,
  withPictures,
} from "./queries";
export {
  answerConversation,
  assignConversation,
  type Conversation,
  identify,
  markConversation,
  noteIncoming,
  openConversation,
  setConversationAside,
  settle,
  writeToPerson,
} from "./service";
export { bringSharedTexts, type IncomingText, listSharedTexts, routeIncoming, type SharedText } from "./shared";
