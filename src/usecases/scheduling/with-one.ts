import type { Id } from "../../core/shared";
import type { Visit } from "../../db/repositories";

/** Whose visits are shown, of those who have some. */
export interface WithOne {
  /** Undefined while everybody's are shown. */
  readonly staffId: Id<"Staff"> | undefined;
  readonly practitioners: readonly { readonly id: Id<"Staff">; readonly name: string; readonly visits: number }[];
  /** So many that they are shown for one practitioner at a time. */
  readonly tooMany: boolean;
}
/**
 * One practitioner's visits, or everybody's where they are not too many to be read on a page. Where they are, and nobody
 * was asked for, one's own, else those of the first by name.
 */
export function withOne(
  visits: readonly Visit[],
  most: number,
  asked: Id<"Staff"> | undefined,
  own: Id<"Staff">,
): WithOne & { readonly shown: readonly Visit[] } {
  const counted = new Map<Id<"Staff">, { name: string; visits: number }>();
  for (const { staffId, staffName } of visits)
    counted.set(staffId, { name: staffName, visits: (counted.get(staffId)?.visits ?? 0) + 1 });
  const practitioners = [...counted]
    .map(([id, { name, visits: many }]) => ({ id, name, visits: many }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const tooMany = visits.length > most;
  const first = counted.has(own) ? own : practitioners[0]?.id;
  const staffId = asked ?? (tooMany ? first : undefined);
  return {
    staffId,
    practitioners,
    tooMany,
    shown: staffId ? visits.filter((visit) => visit.staffId === staffId) : visits,
  };
}
