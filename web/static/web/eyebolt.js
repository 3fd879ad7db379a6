/* Small behaviour shared by all pages. */

import "./copying.js";
import "./drafts.js";
import "./parts.js";
import "./trouble.js";

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
