"use client";
import { useState, type ReactNode } from "react";
import { DateField } from "@/ui/kit/date-field";
import { useProblem } from "@/ui/kit/field-problems";
import { Fields } from "@/ui/kit/page";
import { TextField } from "@/ui/kit/text-field";
import { useTimeFrame } from "@/ui/kit/time";

export interface VisitTimeProps {
  readonly day: string;
  readonly time: string;
  readonly minutes: number;
  /** Undefined where it is held by phone or video. */
  readonly room: string | undefined;
  /** What stands beside it. */
  readonly children?: ReactNode;
}
/** When and where, by the practice's clock. Another length or room comes with another kind; day and time stay. */
export function VisitTime({ day: first, time, minutes, room, children }: VisitTimeProps) {
  const { locale } = useTimeFrame();
  const [day, setDay] = useState(first);
  return (
    <>
      <input type="hidden" name="day" value={day} />
      <Fields $least="9rem">
        <DateField
          label="Day"
          value={day}
          onChange={setDay}
          locale={locale}
          problem={useProblem(undefined, "day")}
          required
        />
        <TextField name="time" type="time" label="Time" defaultValue={time} dir="ltr" />
        <TextField
          key={minutes}
          name="minutes"
          label="Minutes"
          defaultValue={String(minutes)}
          inputMode="numeric"
          dir="ltr"
        />
        {room !== undefined && (
          <TextField key={room} name="room" label="Room" optional="(optional)" defaultValue={room} />
        )}
        {children}
      </Fields>
    </>
  );
}
