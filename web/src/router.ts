import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", name: "home", component: () => import("@/home/HomePage.vue") },
    {
      path: "/p/:id",
      component: () => import("@/shell/ProjectFrame.vue"),
      props: true,
      children: [
        { path: "", redirect: { name: "survey" } },
        {
          path: "survey",
          name: "survey",
          component: () => import("@/stages/survey/SurveyStage.vue"),
        },
        { path: "stow", name: "stow", component: () => import("@/stages/stow/StowStage.vue") },
        {
          path: "heights",
          name: "heights",
          component: () => import("@/stages/heights/HeightsStage.vue"),
        },
        {
          path: "layout",
          name: "layout",
          component: () => import("@/stages/layout/LayoutStage.vue"),
        },
        {
          path: "templates",
          name: "templates",
          component: () => import("@/stages/templates/TemplatesStage.vue"),
        },
        { path: "parts", name: "parts", component: () => import("@/stages/parts/PartsStage.vue") },
        { path: "cut", name: "cut", component: () => import("@/stages/cut/CutStage.vue") },
      ],
    },
    { path: "/:rest(.*)", redirect: "/" },
  ],
});
