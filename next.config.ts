import type { NextConfig } from "next";

const config: NextConfig = {
  // Names of components in class names are for looking at while developing; each page would carry them.
  compiler: { styledComponents: { displayName: process.env.NODE_ENV !== "production", minify: true, ssr: true } },
  // The first three cannot be bundled; the others need not be, and are read twice for it.
  serverExternalPackages: [
    "@electric-sql/pglite",
    "@node-rs/argon2",
    "pg",
    "pdf-lib",
    "nodemailer",
    "otplib",
    "qrcode",
    "saxes",
  ],
  poweredByHeader: false,
  // The title comes with the page, for everyone: streamed in afterwards, a page has none for a moment.
  htmlLimitedBots: /./,
  reactStrictMode: true,
  // `npm test` checks the types of the whole project, tests included; checking again here would double the demo's
  // build.
  typescript: { ignoreBuildErrors: true },
  // A questionnaire file may be too large for us to accept; it must still arrive, so that we can say so.
  experimental: {
    serverActions: { bodySizeLimit: "25mb" },
    proxyClientMaxBodySize: "25mb",
    // A build for the demo or a test run: a cache that no later build reads and maps that nobody looks into take half
    // of its time.
    ...(process.env["KIND_LEDGER_BUILD_ONCE"] === undefined
      ? {}
      : { turbopackFileSystemCacheForBuild: false, turbopackSourceMaps: false }),
  },
};
export default config;
