import { FOR_AGENCIES, PERMISSIONS, type Permission, PLACES } from "@/core/access/permissions";
import { permissionWords } from "@/locales/accounts";

const AT_CLIENTS = PERMISSIONS.filter(
  (permission) =>
    !([...PLACES, ...FOR_AGENCIES] as readonly Permission[]).includes(permission) &&
    permission !== "move the demo clock",
);

/** What a role allows, each with a box. What one may not do oneself cannot be given. */
export function RoleFields({ held, mine }: { held: readonly Permission[]; mine: readonly Permission[] }) {
  const box = (permission: Permission) => (
    <label key={permission} className="flex min-h-[32px] items-center gap-2">
      <input
        type="checkbox"
        name="permission"
        value={permission}
        className="size-[17px] shrink-0"
        defaultChecked={held.includes(permission)}
        disabled={!mine.includes(permission)}
      />
      <span>{permissionWords(permission)}</span>
    </label>
  );
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      <fieldset>
        <legend className="label">People with this role can</legend>
        {PLACES.map(box)}
        <div className="mt-2">{FOR_AGENCIES.map(box)}</div>
      </fieldset>
      <fieldset>
        <legend className="label">and, in the places they can see,</legend>
        {AT_CLIENTS.map(box)}
      </fieldset>
    </div>
  );
}
