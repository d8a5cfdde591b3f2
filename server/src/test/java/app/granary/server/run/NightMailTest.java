package app.granary.server.run;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.verifyNoInteractions;
import static org.mockito.Mockito.when;

import app.granary.core.plan.FolderPattern;
import app.granary.server.journal.JournalEnds;
import app.granary.server.mail.Outbox;
import app.granary.core.retention.Keeping;
import app.granary.server.office.OfficeChoices;
import app.granary.server.office.OfficeDays;
import app.granary.server.plan.Plans;
import app.granary.core.proof.ProofLevel;
import app.granary.server.check.Checks;
import app.granary.server.queue.NewRun;
import app.granary.server.queue.Run;
import app.granary.server.queue.RunEnds;
import app.granary.server.queue.RunRecords;
import app.granary.server.queue.TestRuns;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** What happens when a night's runs have ended: one mail. */
class NightMailTest {
    private static final LocalDate NIGHT = LocalDate.of(2026, 11, 24);
    private static final Instant AT = Instant.parse("2026-11-24T19:00:00Z");

    private static NewRun of(String computer, UUID plan) {
        return NewRun.of(Run.Kind.CAPTURE, new NewRun.About(computer, "d", "disk 1", "p", "PEG-1"), computer + "-1").inNight(NIGHT, plan,
            AT);
    }

    private static Run ended(String computer, Run.State state, String sentence) {
        return TestRuns.ended(of(computer, UUID.randomUUID()), AT, state, AT.plusSeconds(720), sentence);
    }

    private static RunEnds.Ended told(Run run) {
        return new RunEnds.Ended(run, Checks.order(ProofLevel.SOUND), "");
    }

    @Test
    void theSubjectIsTheOutcomeAndWhatNeedsAPersonComesFirst() {
        Run made = ended("DATUM", Run.State.DONE, "made");
        Run failed = ended("PLUMB", Run.State.FAILED, "PEG-1 became full.");
        assertEquals("Night of Tue 24 Nov: 1 of 2 images made", NightMail.subject(NIGHT, List.of(made, failed)));
        assertEquals("Night of Tue 24 Nov: both images made", NightMail.subject(NIGHT, List.of(made, made)));
        assertEquals("Night of Tue 24 Nov: all 3 images made", NightMail.subject(NIGHT, List.of(made, made, made)));
        assertEquals("Night of Tue 24 Nov: the image was made", NightMail.subject(NIGHT, List.of(made)));
        assertEquals(
            "NOT MADE  PLUMB disk 1 to PEG-1\n  PEG-1 became full.\n\nMade  DATUM-1 on PEG-1, 71.0 GB in 12 min, read back and sound\n",
            NightMail.text(List.of(made, failed)));
    }

    @Test
    void itWaitsForTheLastAndGoesOnlyWhereAPlanNamesSomeone() {
        RunRecords records = mock(RunRecords.class);
        Plans plans = mock(Plans.class);
        Outbox outbox = mock(Outbox.class);
        OfficeChoices office = mock(OfficeChoices.class);
        when(office.choices()).thenReturn(new OfficeChoices.Choices("", "decimal", Keeping.ALL, 14, "", "", FolderPattern.NONE, 0));
        NightsMailed sent = mock(NightsMailed.class);
        OfficeDays days = mock(OfficeDays.class, org.mockito.Answers.RETURNS_DEEP_STUBS);
        Clock clock = Clock.fixed(AT, java.time.ZoneOffset.UTC);
        when(days.days().calendar().nightOf(AT)).thenReturn(NIGHT);
        NightMail mail = new NightMail(records, plans, outbox, office, days, sent, mock(JournalEnds.class), clock);
        Run made = ended("DATUM", Run.State.DONE, "made");
        Run waiting = TestRuns.waiting(of("PLUMB", UUID.randomUUID()), AT);
        when(records.ofNight(NIGHT)).thenReturn(List.of(made, waiting));
        mail.ended(told(made));
        when(records.ofNight(NIGHT)).thenReturn(List.of(made));
        when(plans.all()).thenReturn(List.of());
        mail.ended(told(made));
        mail.ended(told(TestRuns.waiting(NewRun.of(Run.Kind.CAPTURE, new NewRun.About("PLUMB", "d", "disk 1", "p", "PEG-1"), "x"), AT)));
        verifyNoInteractions(outbox);
        when(office.choices()).thenReturn(new OfficeChoices.Choices("", "decimal", Keeping.ALL, 14, "", "desk@office.example",
            FolderPattern.NONE, 0));
        mail.ended(told(made));
        verify(outbox).send(List.of("desk@office.example"), NightMail.subject(NIGHT, List.of(made)), NightMail.text(List.of(made)));
        verify(sent).note(NIGHT, AT);
        when(sent.isSent(NIGHT)).thenReturn(true);
        mail.ended(told(made));
        org.mockito.Mockito.verifyNoMoreInteractions(outbox); // one a night
        // a night that a fall of power ended: nobody was told of it
        when(sent.isSent(NIGHT)).thenReturn(false);
        org.mockito.Mockito.clearInvocations(outbox);
        when(records.nightsSince(any())).thenReturn(List.of(NIGHT));
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
        Run stopped = TestRuns.ended(of("DATUM", plan), AT, Run.State.STOPPED, AT.plusSeconds(9), "stopped");
        Run again = TestRuns.ended(of("DATUM", plan), AT, Run.State.DONE, AT.plusSeconds(720), "made");
        Run failed = ended("PLUMB", Run.State.FAILED, "PEG-1 became full.");
        assertEquals(List.of(again, failed), NightMail.last(List.of(stopped, failed, again)));
        assertEquals("Night of Tue 24 Nov: the image was made", NightMail.subject(NIGHT, NightMail.last(List.of(stopped, again))));
    }
}
