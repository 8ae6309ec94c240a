"use client";
import { Button } from "./button";
import { Cluster, Soft } from "./page";

export interface NamesPagesProps {
  /** Where this page begins, from 0, and how many stand on it. */
  readonly from: number;
  readonly shown: number;
  readonly all: number;
  /** Where the page before and the next one begin; undefined where there is none. */
  readonly previous: number | undefined;
  readonly next: number | undefined;
  readonly onTurn: (from: number) => void;
}
/** Turns a long list of names, a page at a time; nothing where one page holds them all. */
export function NamesPages({ from, shown, all, previous, next, onTurn }: NamesPagesProps) {
  if (previous === undefined && next === undefined) return null;
  return (
    <Cluster>
      <Button weight="plain" isDisabled={previous === undefined} onPress={() => onTurn(previous ?? from)}>
        Earlier names
      </Button>
      <Button weight="plain" isDisabled={next === undefined} onPress={() => onTurn(next ?? from)}>
        Further names
      </Button>
      <Soft>
        {from + 1} to {from + shown} of {all}
      </Soft>
    </Cluster>
  );
}
