import "./app.css";
import "./images/icon.svg";
import "htmx.org";
import "./behaviours/notice.js";
import "./behaviours/print.js";
import "./behaviours/phase-minute.js";
import "./behaviours/problem.js";
import "./behaviours/step-order.js";
