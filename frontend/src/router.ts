import { createRouter, createWebHistory } from "vue-router";
import Shelf from "./views/Shelf.vue";

export default createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", name: "shelf", component: Shelf },
    {
      path: "/bench/:id",
      name: "bench",
      component: () => import("./views/Bench.vue"),
      props: true,
    },
    { path: "/:rest(.*)", redirect: "/" },
  ],
});
