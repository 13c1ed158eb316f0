import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// One direction: app → home, shelf, bench, stages → shared; none of these knows another, shared knows
// none of them.
const STAGES = ["arrive", "hang", "earth", "string", "feed", "set", "leave"];
const pages = ["home", "shelf", "bench"];
const closed = (files, groups, message) => ({
  files,
  rules: { "no-restricted-imports": ["error", { patterns: [{ group: groups, message }] }] },
});
const stage = (name) =>
  closed(
    [`src/stages/${name}/**`],
    ["**/app/**", ...pages.map((page) => `**/${page}/**`), ...STAGES.filter((n) => n !== name).map((n) => `**/${n}/**`)],
    "A stage knows shared only.",
  );

export default tseslint.config(
  { ignores: ["dist", "src/shared/api/schema.d.ts", "eslint.config.js"] },
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat["recommended-latest"],
  {
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
    },
  },
  closed(["src/shared/**"], ["**/app/**", "**/stages/**", ...pages.map((page) => `**/${page}/**`)], "shared knows nobody above it."),
  ...pages.map((page) => closed([`src/${page}/**`], ["**/app/**", "**/stages/**", ...pages.filter((one) => one !== page).map((one) => `**/${one}/**`)], "A page knows shared only.")),
  ...STAGES.map(stage),
);
