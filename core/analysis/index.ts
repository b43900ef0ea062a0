export { analyse } from "./analyse";
export { Analysis, type Progress } from "./analysis";
export { keepingEverybody, settingMends, type SettingMend } from "./mends";
