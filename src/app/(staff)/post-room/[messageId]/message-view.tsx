"use client";
import styled from "styled-components";
import { ButtonLink } from "@/ui/kit/button-link";
import { MarginRow, Page, Soft } from "@/ui/kit/page";
import { Moment } from "@/ui/kit/time";
import { postStateWords } from "../post-room-view";
import type { PostView } from "@/usecases/sending";

export interface MessageViewProps {
  readonly message: PostView;
}
export function MessageView({ message }: MessageViewProps) {
  const email = message.channel === "email";
  return (
    <Page
      title={
        <>
          What <bdi>{message.toName}</bdi> sees
        </>
      }
      margin={
        <>
          <Moment at={message.createdAt} />
          <br />
          {postStateWords[message.state]}
        </>
      }
      actions={<ButtonLink href="/post-room">Back to the Post room</ButtonLink>}
    >
      <MarginRow margin={email ? "E-mail to" : "Text to"}>{message.to}</MarginRow>
      {email && (
        <MarginRow margin="Subject">
          <strong dir="auto">{message.subject}</strong>
        </MarginRow>
      )}
      <MarginRow margin={email ? "Letter" : "On the phone"}>
        <Said message={message} />
      </MarginRow>
      {email && message.files && message.files.length > 0 && (
        <MarginRow margin={message.files.length === 1 ? "Attachment" : "Attachments"}>
          <ul>
            {message.files.map((file) => (
              <li key={file.id}>
                <bdi>{file.title}</bdi>
              </li>
            ))}
          </ul>
        </MarginRow>
      )}
      {message.body !== undefined && (
        <MarginRow margin="">
          <Soft>
            {message.masked
              ? "The link is not shown: it opens the client’s own page."
              : "Opening the link here shows you the person’s own page. It asks for a code, which arrives here too."}
          </Soft>
        </MarginRow>
      )}
    </Page>
  );
}
function Said({ message }: MessageViewProps) {
  if (message.body === undefined)
    return (
      <Soft>
        {message.purpose === "code"
          ? "A code is for the client alone; it is not shown here."
          : "It went out to its reader; what it says is not shown here."}
      </Soft>
    );
  const words = withLinks(message.body);
  return message.channel === "email" ? <Letter dir="auto">{words}</Letter> : <Bubble dir="auto">{words}</Bubble>;
}
function withLinks(body: string) {
  return body.split(/(https?:\/\/\S+)/).map((piece, i) =>
    i % 2 === 1 ? (
      <a key={piece} href={piece} rel="noreferrer">
        {piece}
      </a>
    ) : (
      piece
    ),
  );
}
const Letter = styled.div`
  white-space: pre-wrap;
  unicode-bidi: plaintext;
  text-align: start;
  max-width: 36rem;
  padding: 1.25rem 1.5rem;
  background: var(--leaf);
  border: 1px solid var(--rule);
  border-radius: var(--corner);
  overflow-wrap: anywhere;
`;
const Bubble = styled(Letter)`
  max-width: 20rem;
  background: var(--fern-wash);
  border-color: var(--fern);
`;
