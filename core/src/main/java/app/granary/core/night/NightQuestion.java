package app.granary.core.night;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;

/**
 * All that decides a night.
 *
 * @param begins  nothing starts earlier: now, or when the night begins
 * @param tasks   in any order; the answer does not depend on it
 * @param drives  attached tonight
 * @param away    drives that are known but not attached; they are only spoken of
 * @param person  who boots computers, from when until when
 * @param perBoot how long booting one takes that person
 * @param lead    a computer may be handed over and booted so long before its window opens
 * @param zone    the office's, for sentences
 */
public record NightQuestion(Instant begins, List<NightTask> tasks, List<NightDrive> drives, List<NightDrive> away, List<Span> person,
    Duration perBoot, Duration lead, ZoneId zone) {
    public NightQuestion {
        tasks = tasks.stream().sorted(java.util.Comparator.comparing(NightTask::id)).toList();
        drives = List.copyOf(drives);
        away = List.copyOf(away);
        person = List.copyOf(person);
    }
}
