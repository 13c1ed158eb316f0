import type { ThemeConfig } from "antd";
import type { Light } from "./lights";

const TOUCH_PX = 44;
const CORNER_PX = 3;

const INKS = {
  paper: { ink: "#0f2a33", soft: "#57666a", ground: "#eaf0ef", sheet: "#ffffff", hairline: "#9fb0ad", stop: "#b3201b" },
  glare: { ink: "#000000", soft: "#333333", ground: "#ffffff", sheet: "#ffffff", hairline: "#000000", stop: "#a00000" },
} as const;

/** The kit's tokens, so that its parts look like ours. */
export function themeFor(light: Light): ThemeConfig {
  const { ink, soft, ground, sheet, hairline, stop } = INKS[light];
  const flat = "none";
  return {
    cssVar: { key: "noon" },
    token: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontSize: 16,
      colorPrimary: ink,
      colorText: ink,
      colorBgLayout: ground,
      colorBgContainer: sheet,
      colorBorder: hairline,
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
      Select: { optionHeight: TOUCH_PX, optionSelectedBg: "#f7efcd" },
      Drawer: { colorBgElevated: sheet },
    },
  };
}
