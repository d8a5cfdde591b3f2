package app.granary.server.restore;

import app.granary.core.measure.Durations;
import app.granary.core.runbook.Runbook;
import java.util.List;
import org.springframework.web.util.HtmlUtils;

/** A runbook as one plain page that any browser shows, without Granary and without a network. */
final class RunbookHtml {
    private static final String STYLE = "body{font:16px/1.45 sans-serif;color:#24211b;max-width:46em;margin:2em auto;padding:0 "
        + "1em}h1,h2{font-family:serif}li{margin:.5em 0}code{display:block;background:#f3ecdc;padding:.4em .6em;"
        + "margin-top:.2em;white-space:pre-wrap}.min{color:#655e50}.box{display:inline-block;width:.9em;height:.9em;border:1.5px solid "
        + "#24211b;margin-right:.6em}";

    private RunbookHtml() {
    }

    static String of(Runbook book) {
        StringBuilder out = new StringBuilder("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>")
            .append(safe(book.title())).append("</title><style>").append(STYLE).append("</style></head><body>\n<h1>")
            .append(safe(book.title())).append("</h1>\n<p>").append(safe(book.loss())).append("</p>\n<p>About ")
            .append(Durations.range(book.lowMinutes() * 60.0, book.highMinutes() * 60.0)).append(".</p>\n");
        steps(out, "With Granary", book.steps());
        steps(out, "With standard tools only", book.without());
        out.append("<h2>Look at, then sign</h2><ul style=\"list-style:none;padding:0\">");
        book.checks().forEach(each -> out.append("<li><span class=\"box\"></span>").append(safe(each)).append("</li>"));
        return out.append("</ul></body></html>\n").toString();
    }

    private static void steps(StringBuilder out, String title, List<Runbook.Step> steps) {
        out.append("<h2>").append(title).append("</h2><ol>");
        for (Runbook.Step each : steps) {
            out.append("<li>").append(safe(each.text()));
            if (each.highMinutes() > 0) {
                out.append(" <span class=\"min\">").append(Durations.range(each.lowMinutes() * 60.0, each.highMinutes() * 60.0))
                    .append("</span>");
            }
            out.append(each.command().isEmpty() ? "" : "<code>" + safe(each.command()) + "</code>").append("</li>");
        }
        out.append("</ol>");
    }

    private static String safe(String text) {
        return HtmlUtils.htmlEscape(text, "UTF-8");
    }
}
