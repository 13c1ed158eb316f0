import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";
import { contract } from "./contract.js";

export default tseslint.config(
  { ignores: ["dist", "src/shared/api/schema.d.ts", "*.config.js", "contract.js", "tools"] },
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  hooks.configs.flat["recommended-latest"],
  a11y.flatConfigs.strict,
  {
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      // The kit's fields are controls too.
      "jsx-a11y/label-has-associated-control": [
        "error",
        { controlComponents: ["Input", "Input.*", "Select", "DatePicker"], depth: 3 },
      ],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
    },
  },
  ...contract,
);
