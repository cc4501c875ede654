import { Memory } from "./memory";

/** A memory of the table "plans" whose load counts how often it was asked. */
function counting() {
  const memory = new Memory();
  let loads = 0;
  return {
    memory,
    load: () => memory.remember("plans", ["plans", "clients"], async () => ++loads),
  };
}

test("is loaded once, for those who ask at once too", async () => {
  const { load } = counting();
  expect(await Promise.all([load(), load()])).toEqual([1, 1]);
  expect(await load()).toBe(1);
});

test.each([
  ['update "plans" set "state" = $1', 2],
  ["insert into clients (id) values ($1)", 2],
  ["with gone as (delete from plans returning id) select * from gone", 2],
  ["select set_config('estima.branches', '', true)", 2],
  ["rollback to savepoint one", 2],
  ['select * from "plans" for update', 1],
  ['update "plan_versions" set "rules" = $1', 1],
  ['update "messages" set "client_id" = $1', 1],
])("%s: loaded %i times", async (statement, times) => {
  const { memory, load } = counting();
  await load();
  memory.logQuery(statement);
  expect(await load()).toBe(times);
});

test("what could not be loaded is tried again", async () => {
  const memory = new Memory();
  await expect(memory.remember("x", ["x"], () => Promise.reject(new Error("gone")))).rejects.toThrow("gone");
  expect(await memory.remember("x", ["x"], async () => "there")).toBe("there");
});
