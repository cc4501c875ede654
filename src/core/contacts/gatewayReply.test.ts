import { GATEWAY_REPLY, readGatewayReply, readGatewayStatus } from "./gatewayReply";

test.each([
  ["550 5.1.1 <x@post.example>: Recipient address rejected", 550, { code: "no such address", enhanced: "5.1.1" }],
  ["550 No such mailbox here", 550, { code: "no such address", status: 550 }],
  ["552 5.2.2 Over quota", 552, { code: "mailbox full", enhanced: "5.2.2" }],
  ["550 The mailbox is full and was given up", undefined, { code: "mailbox full", status: 550 }],
  ["554 5.7.1 Blocked by policy", 554, { code: "not accepted" }],
  ["421 Try again later", 421, { code: "busy", status: 421 }],
  ["535 5.7.8 Authentication failed", 535, { code: "not signed in" }],
  ["The phone could not be reached", undefined, { code: "phone unreachable" }],
  ["554 Transaction failed", 554, { code: "refused", status: 554 }],
  ["", undefined, { code: "refused" }],
])("%j is read by its numbers, else by what it says", (text, status, reply) => {
  expect(readGatewayReply(text, status)).toMatchObject(reply);
  expect(GATEWAY_REPLY.safeParse(readGatewayReply(text, status)).success).toBe(true);
});

test("an HTTP status says whose fault it is", () => {
  expect([401, 422, 429, 500, 400].map((status) => readGatewayStatus(status).code)).toEqual([
    "not signed in",
    "no such address",
    "busy",
    "out of order",
    "refused",
  ]);
});
