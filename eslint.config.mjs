import withNuxt from './.nuxt/eslint.config.mjs'

const SENTENCE = '/^(message|sentence|sentences|reason|said|because)$/'
const LOOKS =
  '/^(startsWith|endsWith|includes|indexOf|match|matchAll|search|replace|replaceAll|split|slice)$/'
const inSentences = 'Nothing is decided by the words of a sentence: give it a code, or a state.'

export default withNuxt(
  { ignores: ['.output/**', '.mutants/**', '.nuxt/**', 'data/**', 'node_modules/**'] },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/html-self-closing': 'off',
      '@typescript-eslint/unified-signatures': 'off',
      'vue/require-default-prop': 'off',
      'max-len': ['error', { code: 140 }],
    },
  },
  {
    // Tests read sentences; the program only hands them on.
    ignores: ['tests/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `CallExpression[callee.property.name=${LOOKS}][callee.object.property.name=${SENTENCE}]`,
          message: inSentences,
        },
        {
          selector: `CallExpression[callee.property.name=${LOOKS}][callee.object.name=${SENTENCE}]`,
          message: inSentences,
        },
        {
          selector: `CallExpression[callee.property.name=/^(test|exec)$/] > MemberExpression.arguments[property.name=${SENTENCE}]`,
          message: inSentences,
        },
        {
          selector: `CallExpression[callee.property.name=/^(test|exec)$/] > Identifier.arguments[name=${SENTENCE}]`,
          message: inSentences,
        },
        {
          selector: `BinaryExpression[operator=/^[!=]==?$/][left.property.name=${SENTENCE}][right.value=/./]`,
          message: inSentences,
        },
        {
          selector: `BinaryExpression[operator=/^[!=]==?$/][left.name=${SENTENCE}][right.value=/./]`,
          message: inSentences,
        },
        {
          selector: `SwitchStatement[discriminant.property.name=${SENTENCE}]`,
          message: inSentences,
        },
      ],
    },
  },
)
