import "./app.css";
import "htmx.org";
import "./behaviours/notice.js";
import "./behaviours/print.js";
import "./behaviours/phase-minute.js";
