"use client";
import { useId } from "react";
import styled from "styled-components";
import { useProblem } from "./field-problems";
import { box, field } from "./field-parts";

export interface FileFieldProps {
  readonly name: string;
  readonly label: string;
  readonly optional?: string;
  readonly accept: readonly string[];
}
/** A file that goes with the rest of its form; for one that is sent at once there is `FileForm`. */
export function FileField({ name, label, optional, accept }: FileFieldProps) {
  const id = useId();
  const problem = useProblem(undefined, name);
  return (
    <Body>
      <label htmlFor={id}>
        <strong>{label}</strong> {optional}
      </label>
      <Input
        id={id}
        type="file"
        name={name}
        accept={accept.join(",")}
        aria-invalid={problem !== undefined}
        {...(problem ? { "aria-describedby": `${id} problem` } : {})}
      />
      {problem && (
        <Problem id={`${id} problem`} role="alert">
          {problem}
        </Problem>
      )}
    </Body>
  );
}
const Body = styled.div`
  ${field}
`;
const Input = styled.input`
  ${box}
`;
const Problem = styled.p`
  color: var(--madder);
  font-size: 0.94em;
  font-weight: 600;
`;
