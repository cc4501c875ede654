import fc from "fast-check";
import { COMMANDS, commandOf, type OwnKeys, readOwnKeys, withKey } from "./singleKeys";

test("a chosen key stands for its command, and the usual one for nothing", () => {
  const own = withKey({}, "r", "X") as OwnKeys;
  expect([commandOf("x", own), commandOf("R", own), commandOf("j", own)]).toEqual(["r", null, "j"]);
  expect([commandOf("Enter", own), commandOf("?", own), commandOf("ArrowDown", own)]).toEqual([
    "Enter",
    "?",
    "ArrowDown",
  ]);
  expect(withKey(own, "r", "r")).toEqual({});
  expect(withKey(own, "r", "")).toEqual({});
});

test("no two commands have one key, and the list of keys keeps its own", () => {
  expect(withKey({}, "r", "j")).toBeNull();
  expect(withKey({ j: "n" }, "r", "j")).toEqual({ j: "n", r: "j" });
  expect(withKey({}, "r", "?")).toBeNull();
  expect(withKey({}, "r", "ab")).toBeNull();
});

test("however keys are chosen, each command has one key and each key at most one command", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...COMMANDS), fc.string({ maxLength: 2 })), { maxLength: 30 }),
      (turns) => {
        let own: OwnKeys = {};
        for (const [command, key] of turns) own = withKey(own, command, key) ?? own;
        const keys = COMMANDS.map((command) => own[command] ?? command);
        expect(new Set(keys).size).toBe(keys.length);
        for (const [index, command] of COMMANDS.entries()) expect(commandOf(keys[index], own)).toBe(command);
        expect(readOwnKeys(JSON.stringify(own))).toEqual(own);
      },
    ),
  );
});

test.each(["", "{", "[]", "7", '{"r":1}', '{"Enter":"x"}', '{"r":"??"}'])("“%s” in a browser is no choice", (kept) => {
  expect(readOwnKeys(kept)).toEqual({});
});
