package app.granary.server.office;

import app.granary.core.plan.FolderPattern;
import app.granary.core.plan.MailAddress;
import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.server.destination.Destinations;
import app.granary.server.journal.Journal;
import app.granary.server.problem.IfMatch;
import app.granary.server.problem.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What the office chose for all. */
@RestController
@RequestMapping("/api/v1/office/choices")
class OfficeChoicesController {
    private final OfficeChoices choices;
    private final Destinations destinations;
    private final Journal journal;

    OfficeChoicesController(OfficeChoices choices, Destinations destinations, Journal journal) {
        this.choices = choices;
        this.destinations = destinations;
        this.journal = journal;
    }

    /**
     * @param units     "decimal" or "binary"
     * @param trashDays released images lie in the trash of their drive for so long
     * @param copiesTo  destination of the copies of Granary's own database; an empty string for none
     * @param folder    in which images lie on their drives; an empty string for Granary's own
     */
    record ChoicesForm(@NotBlank(message = "is needed") @Size(max = 100, message = "may have at most 100 characters") String name,
        @NotNull @Pattern(regexp = "decimal|binary", message = "is decimal or binary") String units, int last, int daily, int weekly,
        int monthly, int yearly, int minimumDays, int maximumDays,
        int leastProven,
        @Min(value = 0, message = "must be 0 to 365 days") @Max(value = 365, message = "must be 0 to 365 days") int trashDays,
        @NotNull @Size(max = 200) String copiesTo,
        @NotNull @Size(max = 200, message = "may have at most 200 characters") String mailTo, @NotNull String folder) {
        FolderPattern folders() {
            try {
                return FolderPattern.parse(folder);
            } catch (IOException refused) {
                throw Refused.badChoice("folder", refused);
            }
        }
    }

    /** @param policy what is kept, as a sentence */
    record ChoicesDetail(ChoicesForm form, String policy, long version) {
    }

    @GetMapping
    ChoicesDetail all() {
        OfficeChoices.Choices c = choices.choices();
        Keeping k = c.keeping();
        return new ChoicesDetail(new ChoicesForm(c.name(), c.units(), k.keep().last(), k.keep().daily(), k.keep().weekly(),
            k.keep().monthly(), k.keep().yearly(), k.minimumDays(), k.maximumDays(),
            k.leastProven(), c.trashDays(), c.copiesTo(), c.mailTo(), c.folder().text()),
            k.policy().words(), c.version());
    }

    @PutMapping
    ChoicesDetail choose(@RequestHeader("If-Match") String version, @Valid @RequestBody ChoicesForm form, Principal who)
        throws IOException {
        Keeping keeping = new Keeping(new Keep(form.last, form.daily, form.weekly, form.monthly, form.yearly), form.minimumDays,
            form.maximumDays, form.leastProven, false, false);
        if (!keeping.inRange()) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "last", "Counts are 0 to " + Keep.MOST
                + ", days 0 to 9999 with the most not below the least, and at least one proven image stays.");
        }
        if (!form.mailTo.isEmpty() && !MailAddress.isOne(form.mailTo)) {
            throw new Refused(HttpStatus.BAD_REQUEST, "bad-choice", "mailTo", MailAddress.refusal(form.mailTo));
        }
        if (!form.copiesTo.isEmpty() && destinations.now().stream().noneMatch(d -> d.id().equals(form.copiesTo))) {
            throw new Refused(HttpStatus.BAD_REQUEST, "unknown-destination", "copiesTo",
                "That destination is not known here. Choose one from the list.");
        }
        choices.choose(new OfficeChoices.Choices(form.name, form.units, keeping, form.trashDays, form.copiesTo, form.mailTo,
            form.folders(), IfMatch.version(version)));
        journal.add(who.getName(), "change office", "the office", Journal.Result.DONE,
            form.name.strip() + ": " + keeping.policy().words() + " Released images lie in the trash for " + form.trashDays
                + " days. Copies of Granary's own database go to " + (form.copiesTo.isEmpty() ? "no destination" : form.copiesTo)
                + ". Images lie: " + form.folders().sentence());
        return all();
    }
}
