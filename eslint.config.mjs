import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

// Other engines round these differently, and clocks and locales differ between machines: core uses none of them.
const inexact = [
  'sin',
  'cos',
  'tan',
  'asin',
  'acos',
  'atan',
  'atan2',
  'exp',
  'expm1',
  'log',
  'log2',
  'log10',
  'log1p',
  'pow',
  'hypot',
  'cbrt',
  'random',
  'sinh',
  'cosh',
  'tanh',
];

export default tseslint.config(
  { ignores: ['**/dist/**', 'node_modules/**', 'data/**', 'test-results/**'] },
  ...tseslint.configs.strictTypeChecked.map((config) => ({ ...config, files: ['**/*.ts', '**/*.tsx'] })),
  {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: {
      parserOptions: {
        project: 'tsconfig.lint.json',
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/restrict-template-expressions': 'off',
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      // Plugins and handlers are async by contract, whether or not they wait for anything.
      '@typescript-eslint/require-await': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
    },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...inexact.map((property) => ({
          object: 'Math',
          property,
          message: 'differs between engines; use the functions of core/geometry',
        })),
      ],
      'no-restricted-globals': ['error', 'Date', 'Intl', 'performance', 'setTimeout', 'console', 'process', 'window', 'document'],
      'no-restricted-syntax': [
        'error',
        { selector: "BinaryExpression[operator='**']", message: 'differs between engines; multiply' },
        {
          selector: 'CallExpression[callee.property.name=/^(localeCompare|toLocaleString|toLocaleUpperCase|toLocaleLowerCase)$/]',
          message: 'differs between locales',
        },
      ],
    },
  },
  {
    files: ['web/**/*.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name=/^(select|dialog|details)$/]',
          message: 'use Select, Menu, Dialog or Folded of web/controls',
        },
        {
          selector: "JSXOpeningElement[name.name=/^[a-z]/] > JSXAttribute[name.name='title']",
          message: 'no keyboard sees it: use Hint of web/controls',
        },
      ],
    },
  },
  {
    files: ['web/**/*.tsx'],
    ignores: ['web/controls/**'],
    rules: { 'no-restricted-imports': ['error', { name: 'radix-ui', message: 'use its wrapper in web/controls' }] },
  },
  { files: ['web/**/*.tsx', 'web/**/*.ts'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    files: ['**/*.test.ts', '**/testing/**/*.ts', 'e2e/**/*.ts'],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unnecessary-condition': 'off',
      'no-restricted-globals': 'off',
      'no-restricted-properties': 'off',
      'no-restricted-syntax': 'off',
    },
  },
);
