import { createRouter, createWebHistory } from "vue-router";
import Shelf from "./views/Shelf.vue";

export default createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", name: "shelf", component: Shelf },
    { path: "/library", name: "library", component: () => import("./views/Library.vue") },
    { path: "/words", name: "words", component: () => import("./views/Words.vue") },
    { path: "/bench/:id", name: "bench", component: () => import("./views/Bench.vue"), props: true },
    { path: "/:rest(.*)", redirect: "/" },
  ],
});
