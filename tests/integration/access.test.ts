import "../support/nextRequest";

await import("./access/accounts");
await import("./access/desk");
await import("./access/branches");
await import("./access/limits");
