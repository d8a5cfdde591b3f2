package app.granary.core.firstday;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.firstday.FirstDay.Facts;
import app.granary.core.firstday.FirstDay.Step;
import app.granary.core.firstday.FirstDay.Subject;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class FirstDayTest {
    private static Facts facts(int done) {
        return new Facts("Marrowby", "open 08:00 to 18:00", done > 0, done > 1 ? List.of("PEG-1") : List.of(), done > 2 ? 3 : 1, 4,
            done > 3 ? 1 : 0, done > 4, done > 5 ? 3 : 0, done > 6 ? 1 : 0, done > 7 ? 2 : 0);
    }

    @Test
    void eachStepIsDoneByWhatIsSoAndByNothingElse() {
        List<Subject> order = Arrays.asList(Subject.values());
        for (int done = 0; done <= order.size(); done++) {
            List<Step> steps = FirstDay.of(facts(done));
            assertEquals(order, steps.stream().map(Step::subject).toList());
            for (int i = 0; i < steps.size(); i++) {
                assertEquals(i < done, steps.get(i).done(), steps.get(i).toString());
                assertTrue(steps.get(i).text().endsWith("."), steps.get(i).text());
            }
            assertEquals(done < 7, FirstDay.leads(steps));
            assertEquals(done >= 7, FirstDay.sentence(steps).contains("A computer of this office can die"));
        }
        assertEquals("3 of 8 steps are done. With an image and a stick that starts it, a computer of this office can die and be back.",
            FirstDay.sentence(FirstDay.of(facts(3))));
    }

    /** A plan for two of three computers is not yet one for each. */
    @Test
    void everyComputerMeansEvery() {
        Facts some = new Facts("M", "open", true, List.of("PEG-1"), 3, 3, 1, true, 2, 1, 1);
        Step plans = FirstDay.of(some).get(5);
        assertFalse(plans.done());
        assertEquals("2 of 3 have one.", plans.text());
    }
}
