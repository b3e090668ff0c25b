import js from "@eslint/js";
import imports from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "src/api/generated"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  { files: ["src/**/*.{ts,tsx}"], languageOptions: { globals: globals.browser }, ...hooks.configs.flat.recommended },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "import-x": imports },
    settings: { "import-x/resolver": { typescript: true, node: true } },
    rules: {
      // What depends on each other in a circle cannot be understood apart.
      "import-x/no-cycle": "error",
      // A component that is longer is more than one.
      "max-lines-per-function": ["error", { max: 200, skipBlankLines: true, skipComments: true }],
      "no-restricted-properties": [
        "error",
        {
          property: "invalidateQueries",
          message: "askAnew(queries, …) also gives up what was read before the change.",
        },
      ],
    },
  },
  {
    // Colours and sizes are tokens and recipes of the theme; a component only names them.
    files: ["src/**/*.tsx"],
    ignores: ["src/stories/**"],
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: "JSXAttribute[name.name='as'][value.value='form']", message: "Spread asForm instead." },
        ...["Literal[value=/(^|[\\s(])-?[\\d.]+(px|rem|em)\\b/]", "TemplateElement[value.raw=/\\d(px|rem|em)\\b/]"].map(
          (selector) => ({
            selector,
            message: "Name a size of the theme instead.",
          }),
        ),
        { selector: "Literal[value=/^#[\\dA-Fa-f]{3,8}$|rgba?[(]/]", message: "Name a colour of the theme instead." },
      ],
    },
  },
  { files: ["src/shared/askAnew.ts"], rules: { "no-restricted-properties": "off" } },
  { files: ["src/**/*.test.ts"], rules: { "max-lines-per-function": "off" } },
);
