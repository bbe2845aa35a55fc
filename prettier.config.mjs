/** @type {import('prettier').Config} */
export default { singleQuote: true, printWidth: 140, trailingComma: 'all' };
