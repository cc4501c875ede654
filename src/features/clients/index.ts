export * from "./queries";
export { branches, clients, listings, services, teamMembers } from "./tables";
