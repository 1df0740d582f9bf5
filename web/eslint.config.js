import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import pluginVue from 'eslint-plugin-vue'

/** The rooms of the page from the roof down: each may use what lies below it, none what lies above. See CONTRIBUTING. */
const ROOMS = [
  'app',
  'help',
  'ports',
  ...['shelf', 'lattice', 'field', 'takes', 'clips', 'order', 'perform', 'account'], // the screens
  ...['starters', 'kit', 'keyboard', 'progression', 'bench', 'tape', 'sheet', 'around'], // panels and parts of them
  'sentence',
  'hands',
  'playing',
  'lattice/geometry',
  'engine',
  'work',
  'sound',
  'page',
  'theme',
  'api',
]
const inRoom = (room) => (room === 'lattice' ? 'lattice/(?!geometry/)' : `${room}/`)
/** Inside of a room paths are relative, out of it they begin with "@": so a path says whether it leaves the room. */
const downwardsOnly = ROOMS.map((room, at) => ({
  files: [`src/${room}/**/*.{ts,vue}`],
  ignores: ['**/*.test.ts', ...(room === 'lattice' ? ['src/lattice/geometry/**'] : [])],
  rules: {
    '@typescript-eslint/no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^@/(${[...ROOMS.slice(0, at), room].map(inRoom).join('|')})`,
            message: `${room} uses only the rooms below it; its own files by relative paths.`,
          },
          {
            regex: room.includes('/') ? '^(\\.\\./){2}' : '^\\.\\./(\\.\\./)?(' + ROOMS.join('|') + ')/',
            message: 'Other rooms by "@/room/file".',
          },
        ],
      },
    ],
  },
}))

/** Who waits for an answer, tries again, or keeps time by itself. All others use what these offer, or a timer of their scope. */
const WAITERS = [
  'src/page/{asking,reach,longWork,notices,idle,saveFile}.ts',
  'src/engine/useRendering.ts',
  'src/work/{outbox,saving,waiting}.ts',
  'src/sound/{requests,succession}.ts',
  'src/playing/simulatedController.ts',
  'src/keyboard/midiKeyboard.ts',
]
const ONE_WAY =
  'Wait by useNewest or useInTurn of "@/page/asking", or by a timer that ends with its scope (VueUse).'
const waitsByHand = [
  'NewExpression[callee.name="AbortController"]',
  'CallExpression[callee.name=/^set(Timeout|Interval)$/]',
  'CallExpression[callee.property.name=/^set(Timeout|Interval)$/]',
  ':matches(VariableDeclarator, AssignmentExpression) > UpdateExpression', // a number that says which answer is the newest
].map((selector) => ({ selector, message: ONE_WAY }))

export default defineConfigWithVueTs(
  { ignores: ['dist/**', 'src/api/schema.d.ts'] },
  pluginVue.configs['flat/recommended'],
  vueTsConfigs.strict,
  // Every promise is waited for, or left to itself on purpose (`void`): what fails is then said.
  {
    files: ['src/**/*.ts', 'src/**/*.vue'],
    ignores: ['src/**/*.test.ts'], // a test that forgets to wait fails by itself; to read the types takes its time
    languageOptions: { parserOptions: { projectService: true, extraFileExtensions: ['.vue'] } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
    },
  },
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
  ...downwardsOnly,
  {
    files: ['src/**/*.ts', 'src/**/*.vue'],
    ignores: [...WAITERS, 'src/**/*.test.ts', 'src/testing*.ts'],
    rules: { 'no-restricted-syntax': ['error', ...waitsByHand] },
  },
  // A test that finds nothing where something should be has failed anyway.
  {
    files: ['src/**/*.test.ts', 'src/testing.ts'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off' },
  },
)
