import fc from "fast-check";
import { may, narrowed, PERMISSIONS, PLACES, permissionsOf, STARTER_ROLES } from "./permissions";

const holders = (permission: (typeof PERMISSIONS)[number]) =>
  STARTER_ROLES.filter((role) => may({ permissions: permissionsOf(role) }, permission));

test("what each starter role may do", () => {
  expect(permissionsOf("agency")).toEqual(PERMISSIONS);
  expect(holders("change plans")).toEqual(["agency", "manager"]);
  expect(holders("pause everything")).toEqual(["agency", "manager"]);
  expect(holders("ask")).toEqual(["agency", "manager", "desk"]);
  expect(holders("manage people")).toEqual(["agency"]);
  expect(permissionsOf("reader")).toEqual(PLACES);
});

test("whoever is shown fewer places can do nothing there, and keeps all the rest", () => {
  const some = fc.subarray([...PERMISSIONS]);
  fc.assert(
    fc.property(some, fc.option(fc.subarray([...PLACES])), (permissions, shown) => {
      const left = narrowed(permissions, shown);
      expect(permissions).toEqual(expect.arrayContaining(left));
      if (!shown) return expect(left).toEqual(permissions);
      for (const place of PLACES)
        expect(left.includes(place)).toBe(permissions.includes(place) && shown.includes(place));
      if (!shown.includes("see people"))
        for (const done of ["ask", "edit people", "export people", "erase people"] as const)
          expect(left).not.toContain(done);
      if (!shown.includes("see heard")) expect(left).not.toContain("reply in public");
      // What is done for the agency, or at no place, is never hidden by what a client is shown.
      for (const always of ["set up", "manage people"] as const)
        expect(left.includes(always)).toBe(permissions.includes(always));
    }),
  );
});
