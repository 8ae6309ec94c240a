"use client";
import { useState } from "react";
import { Button } from "@/ui/kit/button";
import { ListLine } from "@/ui/kit/ledger";
import { Cluster, SectionTitle, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import type { LayoutLine, NoteLayouts as Layouts } from "@/usecases/notes";
import { LayoutForm } from "./layout-form";

/** Layouts of notes: one's own and shared ones, and those that every practice has, to be used or copied. */
export function NoteLayouts({ lines, fields, fresh }: Layouts & { readonly fresh: string }) {
  const [editing, setEditing] = useState<LayoutLine>();
  if (editing)
    return (
      <LayoutForm
        key={`${editing.layout.id} ${editing.revision}`}
        line={editing}
        fields={fields}
        close={() => setEditing(undefined)}
      />
    );
  const copyOf = (line: LayoutLine): LayoutLine => ({
    ...line,
    layout: { ...line.layout, id: fresh, name: `${line.layout.name}, my way` },
    starting: false,
    mine: true,
    shared: false,
    revision: 0,
  });
  return (
    <section aria-label="Note layouts">
      <SectionTitle>Note layouts</SectionTitle>
      <ol>
        {lines.map((line) => (
          <ListLine
            key={line.layout.id}
            margin={
              line.updatedAt === undefined ? (
                "every practice has it"
              ) : (
                <>
                  {line.updatedBy}, <Moment at={line.updatedAt} as="day" />
                </>
              )
            }
            action={
              <Cluster>
                {!line.starting && (
                  <Button weight="plain" aria-label={`Change ${line.layout.name}`} onPress={() => setEditing(line)}>
                    Change
                  </Button>
                )}
                <Button weight="quiet" aria-label={`Copy ${line.layout.name}`} onPress={() => setEditing(copyOf(line))}>
                  Make one like it
                </Button>
              </Cluster>
            }
          >
            <strong>{line.layout.name}</strong> <Soft>{whose(line)}</Soft>
            <Soft as="p">{line.layout.sections.map(({ heading }) => heading).join(" · ")}</Soft>
          </ListLine>
        ))}
      </ol>
    </section>
  );
}
function whose({ starting, shared }: LayoutLine): string {
  if (starting) return "";
  return shared ? "shared with everybody" : "yours alone";
}
