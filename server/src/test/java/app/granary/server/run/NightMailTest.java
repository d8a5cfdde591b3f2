package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.verifyNoInteractions;
import static org.mockito.Mockito.when;

import app.granary.core.fault.Fault;
import app.granary.core.plan.Afterwards;
import app.granary.engine.codec.Codec;
import app.granary.engine.site.Site;
import app.granary.engine.site.Storage;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.server.journal.Journal;
import app.granary.server.journal.JournalEnds;
import app.granary.server.mail.Outbox;
import app.granary.core.retention.Keeping;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.OptionalLong;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** What happens when a night's runs have ended: one mail, and the computers as their plans say. */
class NightMailTest {
    private static final LocalDate NIGHT = LocalDate.of(2026, 11, 24);
    private static final Instant AT = Instant.parse("2026-11-24T19:00:00Z");

    private static Run ended(String computer, Run.State state, String sentence) {
        Run run = Run.capture(computer, "d", "disk 1", "p", "PEG-1", computer + "-1", AT, "ada").inNight(NIGHT, UUID.randomUUID(), AT);
        run.begin(computer + "-1", AT);
        run.made(UUID.randomUUID(), 71_000_000_000L);
        run.end(state, AT.plusSeconds(720), sentence);
        return run;
    }

    @Test
    void theSubjectIsTheOutcomeAndWhatNeedsAPersonComesFirst() {
        Run made = ended("DATUM", Run.State.DONE, "made");
        Run failed = ended("PLUMB", Run.State.FAILED, "PEG-1 became full.");
        assertEquals("Night of Tue 24 Nov: 1 of 2 images made", NightMail.subject(NIGHT, List.of(made, failed)));
        assertEquals("Night of Tue 24 Nov: all 2 images made", NightMail.subject(NIGHT, List.of(made, made)));
        assertEquals("Night of Tue 24 Nov: the image was made", NightMail.subject(NIGHT, List.of(made)));
        assertEquals("NOT MADE  PLUMB disk 1 to PEG-1\n  PEG-1 became full.\n\nMade  DATUM-1 on PEG-1, 71.0 GB in 12 min, read back and sound\n", NightMail.text(List.of(made, failed)));
    }

    @Test
    void itWaitsForTheLastAndGoesOnlyWhereAPlanNamesSomeone() {
        RunRepository repository = mock(RunRepository.class);
        Plans plans = mock(Plans.class);
        Outbox outbox = mock(Outbox.class);
        OfficeChoices office = mock(OfficeChoices.class);
        when(office.choices()).thenReturn(new OfficeChoices.Choices("", "decimal", Keeping.ALL, 14, "", "", 0));
        NightsMailed sent = mock(NightsMailed.class);
        OfficeDays days = mock(OfficeDays.class, org.mockito.Answers.RETURNS_DEEP_STUBS);
        Clock clock = Clock.fixed(AT, java.time.ZoneOffset.UTC);
        when(days.days().calendar().nightOf(AT)).thenReturn(NIGHT);
        NightMail mail = new NightMail(repository, plans, outbox, office, days, sent, mock(JournalEnds.class), clock);
        Run made = ended("DATUM", Run.State.DONE, "made");
        Run waiting = Run.capture("PLUMB", "d", "disk 1", "p", "PEG-1", "x", AT, "ada").inNight(NIGHT, UUID.randomUUID(), AT);
        when(repository.findByNightOrderByBegunAt(NIGHT)).thenReturn(List.of(made, waiting));
        mail.ended(new RunQueue.Ended(made));
        when(repository.findByNightOrderByBegunAt(NIGHT)).thenReturn(List.of(made));
        when(plans.all()).thenReturn(List.of());
        mail.ended(new RunQueue.Ended(made));
        mail.ended(new RunQueue.Ended(Run.capture("PLUMB", "d", "disk 1", "p", "PEG-1", "x", AT, "ada")));
        verifyNoInteractions(outbox);
        when(office.choices()).thenReturn(new OfficeChoices.Choices("", "decimal", Keeping.ALL, 14, "", "desk@office.example", 0));
        mail.ended(new RunQueue.Ended(made));
        verify(outbox).send(List.of("desk@office.example"), NightMail.subject(NIGHT, List.of(made)), NightMail.text(List.of(made)));
        verify(sent).note(NIGHT, AT);
        when(sent.isSent(NIGHT)).thenReturn(true);
        mail.ended(new RunQueue.Ended(made));
        org.mockito.Mockito.verifyNoMoreInteractions(outbox); // one a night
        // a night that a fall of power ended: nobody was told of it
        when(sent.isSent(NIGHT)).thenReturn(false);
        org.mockito.Mockito.clearInvocations(outbox);
        when(repository.nightsSince(any())).thenReturn(List.of(NIGHT));
        mail.look();
        verifyNoInteractions(outbox); // it may be begun again before it is over
        when(days.days().calendar().nightOf(AT)).thenReturn(NIGHT.plusDays(1));
        mail.look();
        verify(outbox).send(any(), any(), any());
    }

    /** A night that was stopped and begun again counted each stopped try as an image not made. */
    @Test
    void ofSeveralTriesOfAPlanTheLastCounts() {
        UUID plan = UUID.randomUUID();
        Run stopped = ended("DATUM", Run.State.STOPPED, "stopped").inNight(NIGHT, plan, AT);
        Run again = ended("DATUM", Run.State.DONE, "made").inNight(NIGHT, plan, AT);
        Run failed = ended("PLUMB", Run.State.FAILED, "PEG-1 became full.");
        assertEquals(List.of(again, failed), NightMail.last(List.of(stopped, failed, again)));
        assertEquals("Night of Tue 24 Nov: the image was made", NightMail.subject(NIGHT, NightMail.last(List.of(stopped, again))));
    }

    @Test
    void aComputerIsSwitchedOffOnlyAfterAnImageThatWasMade() throws IOException {
        Site site = mock(Site.class);
        Journal journal = mock(Journal.class);
        RunWork work = new RunWork(site, null, null, null, null, null, null, journal, new ObjectMapper(), java.util.List.of(), Clock.systemUTC());
        when(site.machine("d")).thenReturn("DATUM");
        RunQueue queue = mock(RunQueue.class);
        Completion completion = new Completion(site, work, journal, queue);
        String off = work.written(RunOrder.capture(new Storage(Codec.ZSTD, 3, OptionalLong.empty(), SurveyChoice.USED), "", "off"));
        completion.ended(new RunQueue.Ended(ended("DATUM", Run.State.FAILED, "no").with(off, false, false)));
        verify(site, org.mockito.Mockito.never()).afterwards(any(), any());
        // the first image of a night switched off the machine that was to make the second
        Run second = Run.capture("DATUM", "d2", "disk 2", "p", "PEG-1", "x", AT, "ada").inNight(NIGHT, UUID.randomUUID(), AT);
        Run elsewhere = Run.capture("PLUMB", "d3", "disk 1", "p", "PEG-1", "x", AT, "ada").inNight(NIGHT, UUID.randomUUID(), AT);
        when(site.machine("d2")).thenReturn("DATUM");
        when(site.machine("d3")).thenReturn("PLUMB");
        when(queue.waiting()).thenReturn(List.of(second, elsewhere));
        completion.ended(new RunQueue.Ended(ended("DATUM", Run.State.DONE, "made").with(off, false, false)));
        verify(site, org.mockito.Mockito.never()).afterwards(any(), any());
        when(queue.waiting()).thenReturn(List.of(elsewhere));
        completion.ended(new RunQueue.Ended(elsewhere));
        verify(site).afterwards("d", Afterwards.OFF);
        org.mockito.Mockito.clearInvocations(site, journal);
        completion.ended(new RunQueue.Ended(ended("DATUM", Run.State.DONE, "made").with(off, false, false)));
        verify(site).afterwards("d", Afterwards.OFF);
        verify(journal).add("ada", "afterwards", "DATUM", Journal.Result.DONE, "DATUM is switched off, as its plan says.");
        org.mockito.Mockito.doThrow(Fault.of(Fault.Kind.DEVICE_FAILED, "d", "It could not be switched off. Do it by hand.").asException()).when(site).afterwards(any(), any());
        completion.ended(new RunQueue.Ended(ended("DATUM", Run.State.DONE, "made").with(off, false, false)));
        verify(journal).add("ada", "afterwards", "DATUM", Journal.Result.FAILED, "It could not be switched off. Do it by hand.");
        assertTrue(work.order(ended("X", Run.State.DONE, "").with(off, false, false)).storage().passphrase().isNone(), "no passphrase is written down");
    }
}
