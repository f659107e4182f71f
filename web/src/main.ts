import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "element-plus/es/components/base/style/css";
import "element-plus/es/components/button/style/css";
import "element-plus/es/components/input/style/css";
import "element-plus/es/components/select/style/css";
import "element-plus/es/components/option/style/css";
import "element-plus/es/components/dialog/style/css";
import "element-plus/es/components/checkbox/style/css";
import "@/styles/tokens.css";
import "@/styles/base.css";
import "@/styles/drawing.css";
import "@/styles/fields.css";
import { ElButton } from "element-plus/es/components/button/index.mjs";
import { ElCheckbox } from "element-plus/es/components/checkbox/index.mjs";
import { ElDialog } from "element-plus/es/components/dialog/index.mjs";
import { ElInput } from "element-plus/es/components/input/index.mjs";
import { ElOption, ElSelect } from "element-plus/es/components/select/index.mjs";
import { createPinia } from "pinia";
import { createApp } from "vue";
import App from "@/App.vue";
import { router } from "@/router";

const app = createApp(App);
app.use(createPinia());
app.use(router);
for (const component of [ElButton, ElCheckbox, ElDialog, ElInput, ElOption, ElSelect]) {
  app.component(component.name!, component);
}
app.mount("#app");
