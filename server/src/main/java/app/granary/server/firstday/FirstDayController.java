package app.granary.server.firstday;

import app.granary.core.firstday.FirstDay;
import app.granary.server.office.OfficeChoices;
import java.io.IOException;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The page that leads a new office. */
@RestController
@RequestMapping("/api/v1/first-day")
class FirstDayController {
    private final FirstDays days;
    private final OfficeChoices office;

    FirstDayController(FirstDays days, OfficeChoices office) {
        this.days = days;
        this.office = office;
    }

    /** @param subject "office", "drive", "computers", "image", "proof", "plans", "rescue" or "places" */
    record StepLine(String subject, boolean done, String title, String text) {
    }

    /** @param left whether a person left it, or the office is new no more: then it is not offered, and stays where it is */
    record FirstDayPage(String sentence, List<StepLine> steps, boolean left) {
    }

    @GetMapping
    FirstDayPage page() throws IOException {
        List<FirstDay.Step> steps = FirstDay.of(days.facts());
        return new FirstDayPage(FirstDay.sentence(steps),
            steps.stream().map(step -> new StepLine(step.subject().word(), step.done(), step.title(), step.text())).toList(),
            office.firstDayLeft() || !FirstDay.leads(steps));
    }

    record Leaving(boolean left) {
    }

    @PutMapping
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void leave(@RequestBody Leaving leaving) {
        office.leaveFirstDay(leaving.left);
    }
}
