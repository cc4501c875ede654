export { type ArchivedClient, archiveClient, findOwnClient, listArchived, type OwnClient, takeBack } from "./archive";
export { beginDeletion, claimDeletions, deleteClient } from "./deletion";
export { acceptHandover, endHandover, type Handover, listHandovers, offerClient } from "./handover";
