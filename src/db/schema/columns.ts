import { customType, uuid } from "drizzle-orm/pg-core";
import { instant, type Id, type Instant } from "../../core/shared";

/** timestamptz as an Instant, the same from both drivers. */
export const instantColumn = customType<{ data: Instant; driverData: string | Date }>({
  dataType: () => "timestamp with time zone",
  toDriver: (value) => value,
  fromDriver: (value) => instant(value instanceof Date ? value.getTime() : value),
});

/** bytea: Buffer from one driver, Uint8Array from the other; always Uint8Array here. */
export const sealedColumn = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => "bytea",
  fromDriver: (value) => new Uint8Array(value),
});

export const idColumn = <Name extends string>(name: string) => uuid(name).$type<Id<Name>>();
