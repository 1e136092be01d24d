// Vuetify, themed once for the whole application.
import "vuetify/styles";
import { createVuetify } from "vuetify";
import { aliases, mdi } from "vuetify/iconsets/mdi-svg";

const day = {
  dark: false,
  colors: {
    background: "#f3f3f1",
    surface: "#fbfbfa",
    ink: "#1d2022",
    "on-ink": "#f3f3f1",
    primary: "#b4471f",
    secondary: "#1e6f63",
    "on-background": "#1d2022",
    "on-surface": "#1d2022",
    error: "#a3271b",
    warning: "#8a5a00",
  },
};

const lampOff = {
  dark: true,
  colors: {
    background: "#232527",
    surface: "#2b2e30",
    ink: "#e7e7e4",
    "on-ink": "#232527",
    primary: "#e58a5f",
    secondary: "#63b8a9",
    "on-background": "#e7e7e4",
    "on-surface": "#e7e7e4",
    error: "#ff9a8d",
    warning: "#e6b45c",
  },
};

export default createVuetify({
  theme: { defaultTheme: "day", themes: { day, lampOff } },
  icons: { defaultSet: "mdi", aliases, sets: { mdi } },
  defaults: {
    global: { ripple: false },
    VBtn: { variant: "outlined", density: "comfortable", rounded: "4", size: "small" },
    VTextField: { variant: "outlined", density: "compact", hideDetails: true },
    VTextarea: { variant: "outlined", density: "compact", hideDetails: true },
    VSelect: { variant: "outlined", density: "compact", hideDetails: true },
    VSlider: {
      density: "compact",
      hideDetails: true,
      thumbSize: 12,
      trackSize: 3,
      color: "on-surface",
      trackColor: "on-surface",
    },
    VTooltip: { openDelay: 500, location: "bottom" },
    VMenu: { transition: "fade-transition" },
    VDialog: { transition: "fade-transition" },
    VList: { density: "compact" },
    VCard: { rounded: "4" },
  },
});
