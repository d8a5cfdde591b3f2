package app.granary.core.plan;

import app.granary.core.retention.Keep;
import app.granary.core.retention.Keeping;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.image.ImageName;
import java.io.IOException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PlanReviewTest {
    private static final Instant AT = Instant.parse("2026-11-24T18:30:00Z");
    private static final Plan WEEKLY = Plans.of(Rhythm.Weekly.on(Set.of(DayOfWeek.TUESDAY)), "18:30", "07:00", true);

    @Test
    void aPlanIsReadBackInFull() {
        assertEquals(
            "Every Tuesday, between 18:30 and 07:00, booted from rescue media by a person, MERIDIAN's system disk (Aldine N1T, serial "
                + "7K-0412-MD, 1.00 TB) is read: used blocks of every "
                + "partition, page files and swap left out. It is stored compressed with zstd, level 3, in parts of 4.00 GB, not "
                + "encrypted, on PEG-1 and PEG-2 in turn, as "
                + "MERIDIAN-system-disk-20261124-1830Z. Every frame is read back, and again after 90 days. The computer is switched off; "
                + "desk@marrowby.example is mailed. Kept: 7 days, 4 weeks, "
                + "12 months. Nothing is erased or overwritten.",
            PlanReview.of(WEEKLY, AT).sentence());
        assertEquals(List.of(), PlanReview.of(WEEKLY, AT).problems());
    }

    private static Plan changed(String field, String value) {
        Plan p = WEEKLY;
        boolean empty = value.isEmpty();
        return switch (field) {
            case "name" -> p.copyTo(value, p.source());
            case "destinations" -> p.with(p.source(), empty ? List.of() : List.of(p.destinations().get(0), p.destinations().get(0)));
            case "splitBytes" ->
                new Plan(p.name(), p.source(), new Storing("zstd", 3, OptionalLong.of(Long.parseLong(value)), false, false, false),
                    p.destinations(), true, p.rhythm(), p.window(), true,
                    p.naming(), p.folder(), 90, p.afterwards(), p.mailTo(), p.keep(), p.checklist(), "");
            default -> new Plan(p.name(), p.source(), p.storing(), p.destinations(), true, p.rhythm(), p.window(), true, p.naming(),
                p.folder(),
                field.equals("recheckDays") ? Integer.parseInt(value) : 90, p.afterwards(),
                field.equals("mailTo") ? List.of(value) : p.mailTo(),
                field.equals("keep") ? Keeping.of(new Keep(Integer.parseInt(value), 0, 0, 0, 0)) : p.keep(),
                field.equals("checklist") ? List.of(value) : p.checklist(), "");
        };
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '"', value = {
        "name | \"\" | A plan needs a name of at most 100 characters.",
        "destinations | \"\" | No drive is chosen. Choose at least one the image may go to.",
        "destinations | twice | A drive is named twice. Name each once.",
        "splitBytes | 1000 | Parts of less than 16.0 MB would be thousands of files. Choose longer ones, or one file.",
        "recheckDays | 0 | An image is checked again after 1 to 3650 days. Choose a number in between.",
        "keep | 1000 | Keep 0 to 999 of each, where 0 of all keeps every image; 0 to 9999 days, the most not below the least; and at "
            + "least one proven.",
        "mailTo | the office | \"\"\"the office\"\" is no mail address. Write it like name@office.example.\"",
        "checklist | \"\" | The checklist takes at most 30 lines of 1 to 200 characters."})
    void whatCannotBeSavedIsSaidWithItsField(String field, String value, String sentence) {
        PlanReview review = PlanReview.of(changed(field, value), AT);
        assertTrue(review.refused());
        assertEquals(new PlanProblem(field, true, sentence), review.problems().get(0));
    }

    @Test
    void whatIsUnwiseIsWarnedOfButNotRefused() {
        Plan p = WEEKLY;
        Plan unwise = new Plan(p.name(), PlanSource.of("x", "PC", "disk", p.source().identity(), Set.of(1, 4)),
            new Storing("none", 0, OptionalLong.empty(), true, true, true),
            p.destinations().subList(0, 1), false, p.rhythm(), p.window(), false, p.naming(), p.folder(), 90, Afterwards.NOTHING, List.of(),
            Keeping.ALL, List.of(), "");
        PlanReview review = PlanReview.of(unwise, AT);
        assertFalse(review.refused());
        assertEquals(List.of("destinations", "without", "encrypted", "keep", "booted"),
            review.problems().stream().map(PlanProblem::field).toList());
        assertTrue(review.sentence().contains(
            "all blocks of every partition but 1, 4. It is stored as the raw disk, as one file, encrypted with a passphrase, on "
                + "PEG-1, as"),
            review.sentence());
    }

    @Test
    void aChangeIsToldFieldByField() {
        assertEquals(
            List.of("Name: MERIDIAN weekly became Other",
                "Disk: MERIDIAN, system disk (Aldine N1T, serial 7K-0412-MD) became PC, disk (Aldine N1T, serial 7K-0412-MD)"),
            PlanLines.changes(WEEKLY, WEEKLY.copyTo("Other", PlanSource.of("x", "PC", "disk", WEEKLY.source().identity(), Set.of()))));
        assertEquals(List.of("Drives: PEG-1, PEG-2, in turn became PEG-2"),
            PlanLines.changes(WEEKLY, WEEKLY.with(WEEKLY.source(), Plans.PAIR.subList(1, 2))));
        assertEquals(List.of(), PlanLines.changes(WEEKLY, WEEKLY));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "{computer}-{disk} | The naming needs {date}, or every image would have the same name. Add it, for example at the end.",
        "{hostname}-{date} | '\"{hostname}\" stands for nothing. Use {computer}, {disk} and {date}.'",
        "{computer-{date} | A brace in the naming is not closed. Write {computer}, {disk} and {date} whole.",
        "CON.{date} | 'Some systems keep the name \"CON.19700101-0000Z\" for a device. Use letters, digits, dot, hyphen and underscore, "
            + "at most 100, beginning with a letter or digit.'"})
    void aNamingThatCannotWorkIsRefused(String text, String sentence) {
        assertEquals(sentence, assertThrows(FaultException.class, () -> NamingPattern.parse(text)).getMessage());
    }

    @Test
    void everyNameIsOneEveryFileSystemTakesAndKeepsItsDate() throws IOException {
        Random random = new Random(1);
        String[] patterns = {"{computer}-{disk}-{date}", "{date} {computer}", "Bild von {computer} ({disk}) {date}",
            "{disk}{disk}{disk}.{date}", "..{date}.."};
        for (int i = 0; i < 3000; i++) {
            String computer = random.ints(random.nextInt(140), 32, i % 2 == 0 ? 126 : 0x24F)
                .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append).toString();
            String name = NamingPattern.parse(patterns[i % patterns.length]).name(computer, "disk 1, system", AT);
            assertEquals(name, ImageName.parse(name).text());
            assertTrue(name.contains("20261124-1830Z"), name);
        }
        assertEquals("MERIDIAN-disk-1-system-20261124-1830Z", NamingPattern.USUAL.name("MERIDIAN", "disk 1, system", AT));
    }
}
