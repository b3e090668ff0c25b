import { createSystem, defaultBaseConfig, defineConfig, defineRecipe } from "@chakra-ui/react";
import { usualColours } from "./colours";
import { bookStyles } from "./bookStyles";
import { toast } from "./recipes/toast";

/** Primary, plain, quiet and dangerous buttons; targets are 24 px or more everywhere. */
const button = defineRecipe({
  base: {
    display: "inline-flex",
    alignItems: "center",
    justifyContent: "center",
    gap: "6px",
    fontWeight: "600",
    borderRadius: "card",
    borderWidth: "1px",
    borderColor: "transparent",
    cursor: "pointer",
    whiteSpace: "nowrap",
    userSelect: "none",
    flexShrink: 0,
    _disabled: { opacity: 0.55, cursor: "not-allowed" },
    _focusVisible: { outline: "3px solid", outlineColor: "focus", outlineOffset: "1px" },
  },
  variants: {
    look: {
      primary: { bg: "water", color: "onWater", _hover: { bg: "waterDeep" } },
      plain: { bg: "sheet", color: "ink", borderColor: "edge", _hover: { bg: "paper" } },
      quiet: { bg: "transparent", color: "water", _hover: { bg: "paper" } },
      danger: { bg: "sheet", color: "clay", borderColor: "clay", _hover: { bg: "paper" } },
    },
    size: {
      small: { minH: "28px", px: "10px", fontSize: "small" },
      normal: { minH: "36px", px: "14px", fontSize: "text" },
      big: { minH: "46px", px: "18px", fontSize: "text" },
    },
  },
  defaultVariants: { look: "plain", size: "normal" },
});

const px = (values: Record<string, number>) =>
  Object.fromEntries(Object.entries(values).map(([name, value]) => [name, { value: `${value}px` }]));
const steps = (values: number[]) => px(Object.fromEntries(values.map((value) => [String(value / 4), value])));

const config = defineConfig({
  // In layers every style that is added while somebody works would have the browser lay out all of the book anew.
  disableLayers: true,
  preflight: true,
  globalCss: {
    "html, body, #root": { height: "100%" },
    // Boxes to tick, pickers and scroll bars follow the theme too.
    html: { colorScheme: "light dark" },
    body: {
      bg: "paper",
      color: "ink",
      fontFamily: "body",
      fontSize: "text",
      lineHeight: "1.4",
    },
    // Figures stand under each other in tables; in a sentence, or as times, they would look like code.
    table: { fontVariantNumeric: "tabular-nums" },
    "h1, h2, h3": { fontFamily: "heading", fontWeight: "700", lineHeight: "1.2" },
    "button, input, select, textarea": { font: "inherit", color: "inherit" },
    ":focus-visible": { outline: "3px solid", outlineColor: "focus", outlineOffset: "1px" },
    ...bookStyles,
    "*": { _motionReduce: { transition: "none !important", animation: "none !important" } },
  },
  theme: {
    tokens: {
      fonts: {
        heading: { value: "'Bricolage Grotesque Variable', sans-serif" },
        body: { value: "'Atkinson Hyperlegible Next Variable', sans-serif" },
      },
      // Four sizes of text on every screen; 14 px is for what stands beside, and the booking page does without it.
      fontSizes: px({ small: 14, text: 16, title: 20, page: 24 }),
      // Distances in steps of 4 px, named by the number of steps.
      spacing: steps([0, 2, 4, 6, 8, 10, 12, 14, 16, 20, 24, 28, 32, 40, 48, 64, 200]),
      sizes: steps([
        0, 2, 4, 6, 8, 12, 14, 16, 20, 24, 28, 32, 36, 40, 44, 56, 72, 84, 120, 132, 136, 148, 164, 180, 192, 220, 240,
        260, 280, 300, 340, 360, 400, 460, 560, 640, 720, 760, 800, 880, 900, 980,
      ]),
      borderWidths: px({ line: 1, mark: 3, band: 5 }),
      radii: px({ mark: 4, card: 6 }),
      shadows: {
        floating: { value: "0 6px 20px rgba(0, 0, 0, .16)" },
        sheet: { value: "-6px 0 18px rgba(0, 0, 0, .08)" },
        chosen: { value: "0 0 0 3px {colors.kingcup}, 0 0 0 4px {colors.ink}" },
        fit: { value: "0 0 0 2px {colors.glow}" },
        fitChosen: { value: "0 0 0 3px {colors.ink}" },
      },
      lineHeights: { shorter: { value: "1.25" } },
    },
    semanticTokens: {
      colors: {
        paper: { value: { base: "#FBF8F1", _osDark: "#14201C" } },
        sheet: { value: { base: "#FFFFFF", _osDark: "#1B2A25" } },
        ink: { value: { base: "#1D2B26", _osDark: "#EDEBE2" } },
        quiet: { value: { base: "#56655E", _osDark: "#A9B6AF" } },
        line: { value: { base: "#DED8C9", _osDark: "#34453F" } },
        edge: { value: { base: "#8C8A7C", _osDark: "#73847C" } },
        water: { value: { base: usualColours.main, _osDark: "#7FC8B2" } },
        waterDeep: { value: { base: "#0F4438", _osDark: "#A3DCCB" } },
        onWater: { value: { base: usualColours.onMain, _osDark: "#10211C" } },
        onWaterLine: { value: { base: "#FFFFFF66", _osDark: "#10211C66" } },
        kingcup: { value: usualColours.accent },
        // The yellow of a line under words, which needs no ink edge.
        kingcupLine: { value: usualColours.accent },
        // Dark on the yellow by day and by night.
        onKingcup: { value: "#1D2B26" },
        focus: { value: { base: "#A87800", _osDark: "#F4B400" } },
        costAll: { value: { base: "#F3D9D3", _osDark: "#5A2F27" } },
        glow: { value: { base: "#FFF3CC", _osDark: "#4A3B0A" } },
        onClay: { value: { base: "#FFFFFF", _osDark: "#1D2B26" } },
        clay: { value: { base: "#B5412B", _osDark: "#F09A86" } },
        reed: { value: { base: "#4C7A34", _osDark: "#A5D08B" } },
        sky: { value: { base: "#2F6F8F", _osDark: "#93CBE6" } },
        woven: { value: { base: "#EFEADD", _osDark: "#1A2723" } },
        wovenLine: { value: { base: "#E2DBC9", _osDark: "#24342E" } },
        full: { value: { base: "#82A697", _osDark: "#5E8E7C" } },
        // One family of tints for categories: same lightness, hues that stay apart for colour-blind eyes.
        tint0: { value: { base: "#CFE3DB", _osDark: "#29493E" } },
        tint1: { value: { base: "#D6DEF0", _osDark: "#2C3B5C" } },
        tint2: { value: { base: "#F3DAD4", _osDark: "#5A352E" } },
        tint3: { value: { base: "#E6D9EF", _osDark: "#47325A" } },
        tint4: { value: { base: "#DCDDD2", _osDark: "#43463A" } },
        tint5: { value: { base: "#CCE5EE", _osDark: "#1F4A5A" } },
        tint6: { value: { base: "#F1E2BD", _osDark: "#544418" } },
      },
    },
    recipes: { button },
    slotRecipes: { toast },
  },
});

/** Kingcup's own look; no other recipes are loaded, which keeps the public page small. Making it takes a slow phone a moment. */
export const makeSystem = () => createSystem(defaultBaseConfig, config);
