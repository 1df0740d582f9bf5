import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import pluginVue from 'eslint-plugin-vue'

export default defineConfigWithVueTs(
  { ignores: ['dist/**', 'src/api/schema.d.ts'] },
  pluginVue.configs['flat/recommended'],
  vueTsConfigs.strict,
  {
    rules: {
      // Prettier lays out; one-word names are the trade's own (Ruler, Tape).
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multi-word-component-names': 'off',
    },
  },
  // A test that finds nothing where something should be has failed anyway.
  { files: ['src/**/*.test.ts', 'src/testing.ts'], rules: { '@typescript-eslint/no-non-null-assertion': 'off' } },
)
