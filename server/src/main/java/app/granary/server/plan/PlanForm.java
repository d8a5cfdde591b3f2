package app.granary.server.plan;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.plan.Afterwards;
import app.granary.core.plan.FolderPattern;
import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import app.granary.core.plan.NamingPattern;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanDestination;
import app.granary.core.plan.PlanSource;
import app.granary.core.plan.Rhythm;
import app.granary.core.plan.Storing;
import app.granary.core.plan.Window;
import app.granary.engine.codec.Codec;
import app.granary.server.problem.Refused;
import app.granary.server.working.Working;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;

/**
 * A plan as it goes over the wire and into a file. The fields are those of {@link Plan}; words are in lower case, sizes in bytes, times as
 * {@code "18:30"}.
 *
 * @param splitBytes null for one file
 * @param folder     an empty string for the office's choice, as in files that say nothing of it
 */
record PlanForm(@NotNull String name, @NotNull @Valid PlanDisk source, @NotNull String codec, int level, @Schema(types = {
    "integer", "null"}) Long splitBytes, boolean allBlocks, boolean keepSwap,
    boolean encrypted, @NotNull @Size(max = 20, message = "may have at most 20 drives") List<@Valid PlanDrive> destinations, boolean inTurn,
    @NotNull @Valid PlanRhythm rhythm,
    @NotNull @Valid PlanWindow window, boolean booted, @NotNull String naming, @NotNull String folder, int recheckDays,
    @NotNull String afterwards,
    @NotNull @Size(max = 20,
        message = "may have at most 20 addresses") List<@NotNull @Size(max = 200,
            message = "may have at most 200 characters each") String> mailTo,
    @NotNull @Valid PlanKeep keep, @NotNull @Size(max = 30, message = "may have at most 30 lines") List<@NotNull String> checklist,
    @NotNull @Size(max = 2000, message = "may have at most 2000 characters") String note){

    PlanForm {
        folder = folder == null ? "" : folder;
    }

    record PlanDisk(@NotNull @Size(max = 200) String diskId, @NotNull @Size(max = 200) String computer,
        @NotNull @Size(max = 200) String disk, @NotNull @Size(max = 300) String model,
        @NotNull @Size(max = 300) String serial, long sizeBytes, @NotNull @Size(max = 128) List<@NotNull Integer> without) {
    }

    record PlanDrive(@NotNull @Size(max = 200) String id, @NotNull @Size(max = 200) String name) {
    }

    /**
     * @param kind  {@code "by-hand"}, {@code "days"}, {@code "weekly"} or {@code "monthly"}
     * @param every for days: 1 to 365; else 1
     * @param days  for weekly: {@code "monday"} and so on; else empty
     * @param day   for monthly: 1 to 31; else 1
     */
    record PlanRhythm(@NotNull String kind, int every, @NotNull @Size(max = 7) List<@NotNull String> days, int day) {
        private static final String BY_HAND = "by-hand";
    }

    record PlanWindow(@NotNull String from, @NotNull String to) {
    }

    /**
     * What stays; counts 0 to 999, days 0 to 9999.
     *
     * @param asOffice  whether the office's choice holds instead
     * @param automatic whether the rest is released without being asked
     */
    record PlanKeep(int last, int daily, int weekly, int monthly, int yearly, int minimumDays, int maximumDays, int leastProven,
        boolean asOffice, boolean automatic) {
        static PlanKeep of(Keeping k) {
            return new PlanKeep(k.keep().last(), k.keep().daily(), k.keep().weekly(), k.keep().monthly(), k.keep().yearly(),
                k.minimumDays(), k.maximumDays(), k.leastProven(), k.asOffice(), k.automatic());
        }

        Keeping keeping() {
            return new Keeping(new Keep(last, daily, weekly, monthly, yearly), minimumDays, maximumDays, leastProven, asOffice, automatic);
        }
    }

    static PlanForm of(Plan p) {
        PlanSource s = p.source();
        return new PlanForm(p.name(),
            new PlanDisk(s.diskId(), s.computer(), s.disk(), s.identity().model(), s.identity().serial(), s.identity().sizeBytes(),
                List.copyOf(s.without())),
            p.storing().codec(), p.storing().level(), Working.orNull(p.storing().splitBytes()), p.storing().allBlocks(),
            p.storing().keepSwap(), p.storing().encrypted(),
            p.destinations().stream().map(d -> new PlanDrive(d.id(), d.name())).toList(), p.inTurn(), often(p.rhythm()),
            new PlanWindow(p.window().from().toString(), p.window().to().toString()), p.booted(),
            p.naming().text(), p.folder().text(), p.recheckDays(), p.afterwards().word(), p.mailTo(), PlanKeep.of(p.keep()),
            p.checklist(), p.note());
    }

    /** The same plan, of another disk on other drives. */
    /** The same, of a computer that has another name now. */
    PlanForm ofComputer(String computer) {
        return at(new PlanDisk(source.diskId, computer, source.disk, source.model, source.serial, source.sizeBytes, source.without),
            destinations);
    }

    PlanForm at(PlanDisk other, List<PlanDrive> drives) {
        return new PlanForm(name, other, codec, level, splitBytes, allBlocks, keepSwap, encrypted, drives, inTurn, rhythm, window, booted,
            naming, folder, recheckDays, afterwards, mailTo, keep, checklist, note);
    }

    private static PlanRhythm often(Rhythm rhythm) {
        if (rhythm instanceof Rhythm.Days days) {
            return new PlanRhythm("days", days.every(), List.of(), 1);
        }
        if (rhythm instanceof Rhythm.Weekly weekly) {
            return new PlanRhythm("weekly", 1, weekly.days().stream().map(day -> day.name().toLowerCase(Locale.ROOT)).toList(), 1);
        }
        return rhythm instanceof Rhythm.Monthly monthly ? new PlanRhythm("monthly", 1, List.of(), monthly.day())
            : new PlanRhythm(PlanRhythm.BY_HAND, 1, List.of(), 1);
    }

    /** @throws Refused when a word, number or time in it means nothing, with the field */
    Plan plan() {
        return new Plan(name.strip(),
            PlanSource.of(source.diskId, source.computer, source.disk, new DiskIdentity(source.model, source.serial, source.sizeBytes),
                source.without),
            storing(),
            destinations.stream().map(d -> new PlanDestination(d.id, d.name)).toList(), inTurn, readRhythm(),
            new Window(time("window.from", window.from), time("window.to", window.to)), booted, pattern(), folders(),
            recheckDays,
            Afterwards.parse(afterwards)
                .orElseThrow(() -> bad("afterwards",
                    "\"" + afterwards + "\" is nothing that can be done with a computer. Choose nothing, off or restart.")),
            mailTo.stream().map(String::strip).filter(address -> !address.isEmpty()).toList(), keep.keeping(),
            checklist.stream().map(String::strip).filter(line -> !line.isEmpty()).toList(), note.strip());
    }

    private Storing storing() {
        try {
            int known = Codec.parse(codec).requireLevel(level);
            return new Storing(codec, known, splitBytes == null ? OptionalLong.empty() : OptionalLong.of(splitBytes), allBlocks,
                keepSwap || allBlocks, encrypted);
        } catch (IOException refused) {
            throw bad(refused.getMessage().contains("level") ? "level" : "codec", refused.getMessage());
        }
    }

    private NamingPattern pattern() {
        try {
            return NamingPattern.parse(naming.strip());
        } catch (IOException refused) {
            throw Refused.badChoice("naming", refused);
        }
    }

    private FolderPattern folders() {
        try {
            return FolderPattern.parse(folder);
        } catch (IOException refused) {
            throw Refused.badChoice("folder", refused);
        }
    }

    private Rhythm readRhythm() {
        try {
            return switch (rhythm.kind) {
                case PlanRhythm.BY_HAND -> new Rhythm.ByHand();
                case "days" -> new Rhythm.Days(rhythm.every);
                case "weekly" -> Rhythm.Weekly.on(rhythm.days.stream().map(PlanForm::day).collect(Collectors.toSet()));
                case "monthly" -> new Rhythm.Monthly(rhythm.day);
                default -> throw bad("rhythm", "\"" + rhythm.kind + "\" is no rhythm. Choose by-hand, days, weekly or monthly.");
            };
        } catch (IllegalArgumentException outOfRange) {
            throw bad("rhythm", switch (rhythm.kind) {
                case "days" -> "An image is due every 1 to " + Rhythm.Days.MOST + " days. Choose a number in between.";
                case "weekly" -> "Choose at least one day of the week.";
                default -> "Choose a day of the month from 1 to 31; 31 is always the last one.";
            });
        }
    }

    private static DayOfWeek day(String word) {
        return Arrays.stream(DayOfWeek.values()).filter(day -> day.name().equalsIgnoreCase(word)).findFirst()
            .orElseThrow(() -> bad("rhythm", "\"" + word + "\" is no day of the week. Write monday to sunday."));
    }

    private static LocalTime time(String field, String text) {
        try {
            return LocalTime.parse(text);
        } catch (DateTimeException wrong) {
            throw bad(field, "\"" + text + "\" is no time of day. Write it like 18:30.");
        }
    }

    static Refused bad(String field, String sentence) {
        return new Refused(HttpStatus.BAD_REQUEST, "bad-choice", field, sentence);
    }
}
