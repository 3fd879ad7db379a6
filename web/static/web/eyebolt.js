/* Small behaviour shared by all pages. */
document.addEventListener("alpine:init", () => {
  Alpine.data("fold", () => ({
    open: false,
    get closed() {
      return !this.open;
    },
    get shown() {
      return this.open ? "true" : "false";
    },
    toggle() {
      this.open = !this.open;
    },
    close() {
      this.open = false;
    },
  }));

  /* a list of rows that grows: the empty row stands ready in a <template> */
  Alpine.data("rows", () => ({
    add() {
      const prefix = this.$root.dataset.prefix;
      const total = this.$root.querySelector(`[name="${prefix}-TOTAL_FORMS"]`);
      const template = this.$root.querySelector("template");
      const holder = this.$root.querySelector(".rows");
      const fresh = template.content.cloneNode(true);
      for (const element of fresh.querySelectorAll("[name], [id], [for]")) {
        for (const attribute of ["name", "id", "for"]) {
          const value = element.getAttribute(attribute);
          if (value) element.setAttribute(attribute, value.replace("__prefix__", total.value));
        }
      }
      holder.append(fresh);
      total.value = String(Number(total.value) + 1);
      holder.lastElementChild.querySelector("input:not([type=hidden])").focus();
    },
  }));
});

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
