import { theme, type ThemeConfig } from "antd";
import palette from "../../../core/data/palette.json";
import type { Light } from "./lights";

const TOUCH_PX = 44;
const CORNER_PX = 3;

/** The kit's tokens, so that its parts look like ours. */
export function themeFor(light: Light): ThemeConfig {
  const { ink, soft, ground, sheet, field, stop, track } = { ...palette.paper, ...palette[light] };
  const flat = "none";
  return {
    cssVar: { key: "noon" },
    algorithm: light === "loft" ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontSize: 16,
      colorPrimary: ink,
      colorText: ink,
      colorBgLayout: ground,
      colorBgContainer: sheet,
      colorBgElevated: sheet,
      colorTextLightSolid: sheet,
      colorBorder: field,
      colorError: stop,
      colorTextPlaceholder: soft,
      borderRadius: CORNER_PX,
      borderRadiusLG: CORNER_PX,
      borderRadiusSM: CORNER_PX,
      controlHeight: TOUCH_PX,
      boxShadow: flat,
      boxShadowSecondary: flat,
      motion: false,
      wireframe: false,
    },
    components: {
      Button: { primaryShadow: flat, defaultShadow: flat, fontWeight: 600, defaultBorderColor: ink },
      Select: { optionHeight: TOUCH_PX, optionSelectedBg: track, optionActiveBg: ground },
      Drawer: { colorBgElevated: sheet },
    },
  };
}
