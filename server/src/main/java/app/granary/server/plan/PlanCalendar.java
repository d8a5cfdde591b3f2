package app.granary.server.plan;

import app.granary.core.night.Span;
import app.granary.core.plan.DueDates;
import app.granary.core.plan.OfficeCalendar;
import app.granary.core.plan.Plan;
import app.granary.core.plan.PlanReview;
import app.granary.server.office.OfficeDays;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.property.Categories;
import net.fortuna.ical4j.model.property.Description;
import net.fortuna.ical4j.model.property.DtStamp;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.immutable.ImmutableCalScale;
import net.fortuna.ical4j.model.property.immutable.ImmutableVersion;
import org.springframework.stereotype.Component;

/** What is due, as an iCalendar (RFC 5545): an event for every due night of every plan that is not paused, as long as its window. */
@Component
class PlanCalendar {
    private static final int AHEAD_DAYS = 92;
    private static final int MOST_PER_PLAN = 100;

    private final Plans plans;
    private final OfficeDays office;
    private final Clock clock;

    PlanCalendar(Plans plans, OfficeDays office, Clock clock) {
        this.plans = plans;
        this.office = office;
        this.clock = clock;
    }

    String write() {
        OfficeCalendar days = office.days().calendar();
        LocalDate tonight = days.nightOf(clock.instant());
        Calendar calendar = new Calendar().withProdId("-//Granary//Plans//EN").withProperty(ImmutableVersion.VERSION_2_0)
            .withProperty(ImmutableCalScale.GREGORIAN).getFluentTarget();
        for (Plans.Saved saved : plans.all()) {
            if (!saved.paused()) {
                new DueDates(saved.plan(), saved.madeOn(), days).from(tonight, MOST_PER_PLAN).stream()
                    .filter(night -> night.isBefore(tonight.plusDays(AHEAD_DAYS)))
                    .forEach(night -> saved.plan().window().on(night, days).ifPresent(window -> calendar.add(event(saved, night, window))));
            }
        }
        StringWriter out = new StringWriter();
        try {
            new CalendarOutputter().output(calendar, out);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return out.toString();
    }

    private VEvent event(Plans.Saved saved, LocalDate night, Span window) {
        Plan plan = saved.plan();
        VEvent event = new VEvent(window.from().atOffset(ZoneOffset.UTC).toInstant(), window.to().atOffset(ZoneOffset.UTC).toInstant(),
            "Image " + plan.source().label());
        // the library stamps with its own clock
        event.removeAll("DTSTAMP");
        event.add(new DtStamp(clock.instant()));
        event.add(new Uid(saved.id() + "-" + night + "@granary"));
        event.add(new Description(PlanReview.of(plan, window.from()).sentence()));
        event.add(new Categories("granary"));
        return event;
    }
}
