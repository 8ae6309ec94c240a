"use client";
import { memo, useState } from "react";
import styled from "styled-components";
import { bandOf, isScored, pointsText, versionOf, type Course } from "@/core/measures";
import { languageName, type Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Table } from "@/ui/kit/ledger";
import { Link } from "@/ui/kit/link";

const mostRows = 40;
export interface PointTableProps {
  readonly course: Course;
  readonly dayOf: (at: Instant) => string;
}
/** The same numbers as the plot, and those it cannot draw: the newest first. */
export const PointTable = memo(function PointTable({ course, dayOf }: PointTableProps) {
  // Very many rows are drawn when they are asked for.
  const [all, setAll] = useState(course.points.length <= mostRows);
  const shown = all ? course.points : course.points.slice(-mostRows);
  return (
    <Scroller tabIndex={0} role="region" aria-label={`${course.title}, the numbers`}>
      <Table>
        <thead>
          <tr>
            <th scope="col">Returned</th>
            <th scope="col">{course.title}</th>
            <th scope="col">Band</th>
            <th scope="col">Answered</th>
            <th scope="col">Version</th>
            <th scope="col">In</th>
          </tr>
        </thead>
        <tbody>
          {shown.toReversed().map((point) => (
            <tr key={`${point.at} ${point.partId ?? ""}`}>
              <th scope="row">
                {point.packetId ? (
                  <Link href={`/returns/${point.packetId}`}>{dayOf(point.at)}</Link>
                ) : (
                  `${dayOf(point.at)}, brought`
                )}
              </th>
              <td>{isScored(point) ? pointsText(point.value) : "not scorable"}</td>
              <td>{bandOf(course, point)}</td>
              <td>
                {point.answered} of {point.items}
                {point.prorated ? ", filled up by their mean" : ""}
              </td>
              <td>{versionOf(course, point)?.version}</td>
              <td>{point.language === "" ? "" : languageName(point.language)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {!all && (
        <Button weight="quiet" onPress={() => setAll(true)}>
          All {course.points.length}
        </Button>
      )}
    </Scroller>
  );
});
const Scroller = styled.div`
  max-block-size: 22rem;
  overflow: auto;
  & thead th {
    position: sticky;
    inset-block-start: 0;
    background: var(--paper);
  }
`;
