"use client";
import NextLink from "next/link";
import type { ComponentProps } from "react";

/**
 * A link inside the app. Nothing is fetched before it is followed: every page is made for who asks, so a page full of
 * links would have the server make dozens that nobody opens.
 */
export function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />;
}
