package app.granary.server.card;

import app.granary.core.card.Card;
import app.granary.core.measure.Durations;
import app.granary.core.measure.Moments;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.springframework.web.util.HtmlUtils;

/** The booklet as one plain page that any browser shows, without Granary and without a network. */
final class CardHtml {
    private static final String STYLE = "body{font:16px/1.45 sans-serif;color:#24211b;max-width:46em;margin:2em auto;padding:0 "
        + "1em}h1,h2{font-family:serif}section{border-top:2px solid #24211b;margin-top:2em;"
        + "break-after:page}h2{margin:.4em 0 0}dt{color:#655e50;margin-top:.6em}dd{margin:0}.way{border-left:3px solid "
        + "#9c3f29;padding-left:.8em}";

    private final ZoneId zone;
    private final StringBuilder out = new StringBuilder();

    private CardHtml(ZoneId zone) {
        this.zone = zone;
    }

    static String of(String office, List<Card> cards, Instant at, ZoneId zone) {
        CardHtml html = new CardHtml(zone);
        html.out.append("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>If it dies today: ").append(safe(office))
            .append("</title><style>").append(STYLE).append("</style></head><body>\n");
        html.out.append("<h1>If it dies today</h1>\n<p>").append(safe(office)).append(". Written ").append(html.day(at))
            .append("; a drive that came back later has a newer one.</p>\n<ul>");
        cards.forEach(card -> html.out.append("<li><a href=\"#").append(anchor(card)).append("\">").append(safe(card.computer()))
            .append("</a></li>"));
        html.out.append("</ul>\n");
        cards.forEach(html::card);
        return html.out.append("</body></html>\n").toString();
    }

    private static String anchor(Card card) {
        return "c" + Integer.toHexString(card.computer().hashCode());
    }

    private static String safe(String text) {
        return HtmlUtils.htmlEscape(text, "UTF-8");
    }

    private String day(Instant at) {
        return Moments.full(at, zone) + " (" + zone.getId() + ")";
    }

    private void card(Card card) {
        out.append("<section id=\"").append(anchor(card)).append("\"><h2>").append(safe(card.computer())).append("</h2><p>")
            .append(safe(card.role())).append(card.owner().isEmpty() ? "" : ", " + safe(card.owner()))
            .append(
                card.highMinutes() == 0 ? "" : ". Back in about " + Durations.range(card.lowMinutes() * 60.0, card.highMinutes() * 60.0))
            .append(".</p>\n");
        if (!card.inTheWay().isEmpty()) {
            out.append("<div class=\"way\"><b>What stands in the way</b><ul>");
            card.inTheWay().forEach(line -> out.append("<li>").append(safe(line)).append("</li>"));
            out.append("</ul></div>\n");
        }
        out.append("<dl>");
        for (Card.OfOneDisk disk : card.disks()) {
            line(disk.disk() + " (" + disk.identity() + ")",
                disk.image().isEmpty() ? "No image."
                    : "You get back " + disk.image() + ", as of " + disk.asOf().map(this::day).orElse("") + ", " + disk.proven()
                        + ". It lies on " + disk.lies() + ".");
            line("Lost", disk.lost());
        }
        line("Boot it with", card.stick());
        if (!card.key().isEmpty()) {
            line("Key", card.key());
        }
        out.append("</dl><ol>");
        card.steps().forEach(step -> out.append("<li>").append(safe(step)).append("</li>"));
        out.append(
            "</ol><p>Without Granary: in the image's folder, <code>sha256sum -c manifest-sha256.txt</code>, then <code>cat "
                + "data/disk.img.zst* | zstd -d &gt; /dev/X</code> (gzip and xz likewise; "
                + "encrypted parts are opened one by one with gpg first), where X is the disk named above.</p></section>\n");
    }

    private void line(String label, String text) {
        out.append("<dt>").append(safe(label)).append("</dt><dd>").append(safe(text)).append("</dd>");
    }
}
