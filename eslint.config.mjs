import js from "@eslint/js";
import globals from "globals";

export default [
  { ignores: ["studio/ui/static/ui/built/**", "var/**", "node_modules/**", ".venv/**"] },
  js.configs.recommended,
  {
    files: ["studio/ui/static/ui/**/*.js"],
    languageOptions: { ecmaVersion: 2024, sourceType: "module", globals: globals.browser },
    rules: {
      eqeqeq: "error",
      "no-var": "error",
      "prefer-const": "error",
      "no-implicit-globals": "error",
      "max-lines": ["error", { max: 200, skipComments: true, skipBlankLines: true }],
    },
  },
];
