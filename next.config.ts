import type { NextConfig } from 'next';

const config: NextConfig = {
  compiler: { styledComponents: true },
  serverExternalPackages: ['@electric-sql/pglite', '@node-rs/argon2', 'pg'],
  poweredByHeader: false,
  reactStrictMode: true,
  // `npm test` checks the types of the whole project, tests included; checking again here would double the demo's build.
  typescript: { ignoreBuildErrors: true },
  // A questionnaire file may be too large for us to accept; it must still arrive, so that we can say so.
  experimental: { serverActions: { bodySizeLimit: '25mb' }, proxyClientMaxBodySize: '25mb' },
};
export default config;
