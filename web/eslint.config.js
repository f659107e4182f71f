import js from "@eslint/js";
import prettier from "eslint-config-prettier";
import vue from "eslint-plugin-vue";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "src/api/schema.d.ts", "public"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs["flat/recommended"],
  {
    files: ["**/*.vue"],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    rules: {
      // The compiler knows the browser's names.
      "no-undef": "off",
      "vue/require-default-prop": "off",
      // X and Y are the axes of a drawing.
      "vue/attribute-hyphenation": "off",
    },
  },
  prettier,
);
