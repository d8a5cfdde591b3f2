package app.granary.server.card;

import app.granary.core.destination.Destination;
import app.granary.engine.host.ImageStore;
import app.granary.server.database.Copies;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Lays the booklet onto every destination that is attached: Granary's own computer can die too. */
@Component
class CardExport {
    static final String FILE = "if-it-dies-today.html";
    private static final Logger LOG = LoggerFactory.getLogger(CardExport.class);

    private final Cards cards;
    private final ImageStore store;
    private final OfficeDays days;
    private final OfficeChoices choices;
    private final GranarySettings settings;
    private final Journal journal;
    private final Clock clock;

    CardExport(Cards cards, ImageStore store, OfficeDays days, OfficeChoices choices, GranarySettings settings, Journal journal,
        Clock clock) {
        this.cards = cards;
        this.store = store;
        this.days = days;
        this.choices = choices;
        this.settings = settings;
        this.journal = journal;
        this.clock = clock;
    }

    @Scheduled(initialDelay = 600_000, fixedDelay = 6 * 3_600_000)
    void now() {
        try {
            write("Granary");
        } catch (IOException failed) {
            LOG.warn("the cards could not be written", failed);
        }
    }

    /** @return where it lies now, as a sentence */
    String write(String who) throws IOException {
        List<String> where = new ArrayList<>();
        List<String> not = new ArrayList<>();
        byte[] page = CardHtml.of(choices.choices().name(), cards.all().stream().map(Cards.Named::card).toList(), clock.instant(),
            days.days().calendar().zone()).getBytes(StandardCharsets.UTF_8);
        for (Destination each : store.destinations()) {
            if (!each.attached() || !each.writable()) {
                not.add(each.name());
                continue;
            }
            try {
                store.putFile(each.id(), Copies.FOLDER, FILE, new ByteArrayInputStream(page));
                where.add(each.name());
            } catch (IOException failed) {
                LOG.warn("the cards could not be written to {}", each.name(), failed);
                not.add(each.name());
            }
        }
        String sentence = where.isEmpty() ? "The cards were written nowhere: no destination is attached and writable."
            : "The cards of all computers lie on " + String.join(", ", where) + " now, as "
                + Copies.FOLDER + "/" + FILE + "."
                + (not.isEmpty() ? "" : " Not on " + String.join(", ", not) + ", which cannot be written just now.");
        journal.add(who, "export cards", "all computers", where.isEmpty() ? Journal.Result.FAILED : Journal.Result.DONE, sentence);
        return sentence;
    }
}
