package app.granary.server.plan;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.plan.Plan;
import app.granary.server.problem.Refused;
import jakarta.validation.Validation;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Plan files: what goes out comes back, and whatever comes in is a plan or is refused with a sentence. */
class PlanFileTest {
    private static final Path DEMO = Path.of("../standins/src/main/resources/app/granary/standins/plans");

    private final PlanFile file = new PlanFile(Validation.buildDefaultValidatorFactory().getValidator());

    private static List<String> demo() throws IOException {
        try (Stream<Path> files = Files.list(DEMO)) {
            return files.sorted().map(path -> {
                try {
                    return Files.readString(path);
                } catch (IOException failed) {
                    throw new java.io.UncheckedIOException(failed);
                }
            }).toList();
        }
    }

    @Test
    void everyPlanOfTheDemoComesBackAsItWentOut() throws IOException {
        assertEquals(11, demo().size());
        for (String text : demo()) {
            Plan plan = file.read(text).plan();
            assertEquals(plan, file.read(file.write(PlanForm.of(plan))).plan());
            assertEquals(plan, file.kept(file.keep(PlanForm.of(plan))).plan());
            assertEquals(file.write(PlanForm.of(plan)), file.write(file.read(file.write(PlanForm.of(plan)))),
                "the same bytes for the same plan");
        }
    }

    /** Bytes changed, cut, doubled and moved: 4 000 files, none of which is anything but a plan or a refusal. */
    @Test
    void whateverComesInIsAPlanOrRefusedWithASentence() throws IOException {
        List<String> good = demo();
        Random random = new Random(4);
        int read = 0;
        for (int i = 0; i < 4000; i++) {
            byte[] bytes = good.get(i % good.size()).getBytes(StandardCharsets.UTF_8);
            for (int k = random.nextInt(4); k >= 0; k--) {
                int at = random.nextInt(bytes.length);
                switch (random.nextInt(4)) {
                    case 0 -> bytes[at] = (byte) random.nextInt(256);
                    case 1 -> bytes = java.util.Arrays.copyOf(bytes, Math.max(1, at));
                    case 2 -> bytes[at] = (byte) "0123456789-{}[]\",:".charAt(random.nextInt(18));
                    default -> System.arraycopy(bytes, at, bytes, random.nextInt(bytes.length - Math.min(40, bytes.length - at) + 1),
                        Math.min(40, bytes.length - at));
                }
            }
            String text = new String(bytes, StandardCharsets.UTF_8);
            try {
                file.read(text).plan();
                read++;
            } catch (Refused refused) {
                assertFalse(refused.getMessage().isBlank());
                assertTrue(refused.getMessage().endsWith("."), refused.getMessage());
                assertFalse(refused.getMessage().contains("app.granary") || refused.getMessage().contains("java."), refused.getMessage());
            }
        }
        assertTrue(read > 100, "some changes are harmless: " + read);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', value = {
        "\"level\": 3 | \"level\": 3.5",
        "\"level\": 3 | \"level\": null",
        "\"level\": 3 | \"level\": 99999999999999",
        "\"booted\": true | \"booted\": \"perhaps\"",
        "\"rhythm\" | \"tempo\"",
        "\"every\": 1 | \"every\": -4",
        "\"naming\": \"{computer}-{disk}-{date}\" | \"naming\": \"../../{date}\"",
        "\"recheckDays\": 90 | \"recheckDays\": 90, \"recheckDays\": []",
        "\"mailTo\": [ | \"mailTo\": [ null, "})
    void oneFieldThatCannotBeIsEnough(String from, String to) throws IOException {
        String text = demo().get(7);
        assertTrue(text.contains(from.strip()), from);
        String changed = text.replace(from.strip(), to.strip());
        Refused refused = assertThrows(Refused.class, () -> {
            Plan plan = file.read(changed).plan();
            // a name that leads elsewhere becomes one that does not
            assertFalse(plan.naming().name("PC", "disk", java.time.Instant.EPOCH).contains("/"));
            throw PlanForm.bad("", "made harmless.");
        });
        assertTrue(refused.getMessage().endsWith("."), refused.getMessage());
    }

    @Test
    void aFileLongerThanAnyPlanIsNotEvenParsed() {
        assertTrue(assertThrows(Refused.class, () -> file.read("[".repeat(200_000))).getMessage()
            .startsWith("This file is longer than any plan."));
        // nesting as deep as fits is refused too, not followed
        assertThrows(Refused.class, () -> file.read("{\"granaryPlan\": 1, \"plan\": " + "[".repeat(90_000)));
    }
}
