import { createContext, useContext } from "react";
import type { ChartField } from "@/core/chart";

export interface PracticeFields {
  readonly all: readonly ChartField[];
  /** Those a new line may ask for: without the retired ones. */
  readonly offered: readonly ChartField[];
}
const Fields = createContext<PracticeFields>({ all: [], offered: [] });
export const ChartFieldsProvider = Fields.Provider;
/** The practice's chart fields, built in and its own. */
export const useChartFields = (): PracticeFields => useContext(Fields);
