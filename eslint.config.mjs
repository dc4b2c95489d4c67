import withNuxt from './.nuxt/eslint.config.mjs'

export default withNuxt(
  { ignores: ['.output/**', '.nuxt/**', 'data/**', 'node_modules/**'] },
  {
    rules: {
      'vue/multi-word-component-names': 'off',
      'vue/html-self-closing': 'off',
      '@typescript-eslint/unified-signatures': 'off',
      'vue/require-default-prop': 'off',
      'max-len': ['error', { code: 140 }],
    },
  },
)
