export * from "./named";
export * from "./queries";
export { branches, clients, listings, services, TAG_EFFECTS, type TagEffect, tags, teamMembers } from "./tables";
