import type { NextConfig } from 'next';

const config: NextConfig = {
  compiler: { styledComponents: true },
  serverExternalPackages: ['@electric-sql/pglite', '@node-rs/argon2', 'pg'],
  poweredByHeader: false,
  // The title comes with the page, for everyone: streamed in afterwards, a page has none for a moment.
  htmlLimitedBots: /./,
  reactStrictMode: true,
  // `npm test` checks the types of the whole project, tests included; checking again here would double the demo's build.
  typescript: { ignoreBuildErrors: true },
  // A questionnaire file may be too large for us to accept; it must still arrive, so that we can say so.
  experimental: {
    serverActions: { bodySizeLimit: '25mb' }, proxyClientMaxBodySize: '25mb',
    // Writing a cache that no later build reads takes a third of the build's time.
    turbopackFileSystemCacheForBuild: process.env['KIND_LEDGER_BUILD_ONCE'] === undefined,
  },
};
export default config;
