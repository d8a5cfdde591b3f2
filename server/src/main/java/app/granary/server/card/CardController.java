package app.granary.server.card;

import app.granary.core.card.Card;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The cards, one or all. */
@RestController
@RequestMapping("/api/v1/cards")
class CardController {
    private final Cards cards;
    private final CardExport export;
    private final Clock clock;

    CardController(Cards cards, CardExport export, Clock clock) {
        this.cards = cards;
        this.export = export;
        this.clock = clock;
    }

    /** @param asOf null when there is no image */
    record CardDisk(String disk, String identity, String image, @Schema(types = {
        "string", "null"}) Instant asOf, String lost, String lies, String proven){
    }

    record CardLine(UUID computerId, String computer, String role, String owner, List<CardDisk> disks, String stick, String key,
        List<String> steps, long lowMinutes, long highMinutes, List<String> inTheWay) {
        static CardLine from(Cards.Named named) {
            Card c = named.card();
            return new CardLine(named.computerId(), c.computer(), c.role(), c.owner(),
                c.disks().stream().map(d -> new CardDisk(d.disk(), d.identity(), d.image(), d.asOf().orElse(null), d.lost(), d.lies(),
                    d.proven())).toList(),
                c.stick(), c.key(), c.steps(), c.lowMinutes(), c.highMinutes(), c.inTheWay());
        }
    }

    /** @param writtenAt what they say is of this moment */
    record Booklet(Instant writtenAt, List<CardLine> cards) {
    }

    @GetMapping
    Booklet all() throws IOException {
        return new Booklet(clock.instant(), cards.all().stream().map(CardLine::from).toList());
    }

    @GetMapping("/{computerId}")
    CardLine one(@PathVariable UUID computerId) throws IOException {
        return CardLine.from(cards.one(computerId));
    }

    /** @param sentence where the file lies now */
    record Exported(String sentence) {
    }

    @PostMapping("/export")
    Exported export(Principal who) throws IOException {
        return new Exported(export.write(who.getName()));
    }
}
