export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/{core,contract,server,web}/test/**/*.test.{ts,tsx}'],
  transform: {
    '^.+\\.(ts|mjs|js)$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }],
    '^.+\\.tsx$': [
      '@swc/jest',
      { jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } } },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(.*/node_modules/)?(@fleam|@tanstack|react-hotkeys-hook|uuid|content-disposition|cookie|@scure|@noble)/)',
  ],
  moduleNameMapper: {
    '\\.s?css$': '<rootDir>/web/test/pages/nothing.js',
    '^@fleam/(core|contract|server)/(.*)$': '<rootDir>/$1/src/$2.ts',
  },
  testTimeout: 180_000,
}
