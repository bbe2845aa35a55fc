import jsxA11y from 'eslint-plugin-jsx-a11y-x';
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
      // A switch over the cases of one type is one branch: it is read as a table.
      complexity: ['error', { max: 25, variant: 'modified' }],
      'max-params': ['error', 8],
      'max-lines-per-function': ['error', { max: 115, skipBlankLines: true, skipComments: true }],
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
  {
    files: ['web/**/*.tsx'],
    ...jsxA11y.configs.strict,
    rules: {
      ...jsxA11y.configs.strict.rules,
      // What scrolls has to be reached by key.
      'jsx-a11y-x/no-noninteractive-tabindex': 'off',
      'jsx-a11y-x/label-has-associated-control': ['error', { controlComponents: ['Select', 'Slider', 'Check', 'SeedField'], depth: 3 }],
      // A grid is a table by its roles, a list that is chosen from a list.
      'jsx-a11y-x/no-redundant-roles': ['error', { thead: ['rowgroup'], tbody: ['rowgroup'] }],
      'jsx-a11y-x/no-interactive-element-to-noninteractive-role': [
        'error',
        { tr: ['row', 'presentation'], th: ['columnheader', 'presentation'] },
      ],
      'jsx-a11y-x/no-noninteractive-element-to-interactive-role': ['error', { ul: ['listbox'], li: ['option'] }],
      // A divider that is moved is a separator; the Plan is a picture with a list beside it.
      'jsx-a11y-x/no-noninteractive-element-interactions': ['error', { handlers: ['onClick'] }],
      // Pointing at a dial, or coming to it, is told to its group; nothing is done by it.
      'jsx-a11y-x/no-static-element-interactions': ['error', { handlers: ['onClick', 'onMouseDown', 'onKeyDown'] }],
    },
  },
  { files: ['web/**/*.tsx', 'web/**/*.ts'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    files: ['**/*.test.ts', '**/testing/**/*.ts', 'e2e/**/*.ts', 'bench/**/*.ts'],
    rules: {
      complexity: 'off',
      'max-lines-per-function': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unnecessary-condition': 'off',
      'no-restricted-globals': 'off',
      'no-restricted-properties': 'off',
      'no-restricted-syntax': 'off',
    },
  },
);
