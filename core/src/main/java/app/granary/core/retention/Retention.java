package app.granary.core.retention;

import app.granary.core.retention.RetentionDecision.Rule;
import app.granary.core.retention.ShelvedCopy.Hold;
import app.granary.core.retention.ShelvedCopy.State;
import app.granary.core.measure.Moments;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.temporal.IsoFields;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * Decides for all images of one disk what stays. Keeping wins over releasing; the rules are asked in the order of {@link Rule}. A period
 * counts when it has an image that is not damaged; its newest proven one stands for it, and until one is proven its newest of any. Weeks
 * are those of ISO 8601, days those of the office's time zone. An image that lacks a part of its disk stands for none that holds all of it:
 * images are decided apart by what they lack. That copies of one moment stay or go together, and the classic of days, weeks and months, is
 * common practice, no source.
 */
public final class Retention {

    private final RetentionPolicy policy;
    private final Instant now;
    private final ZoneId zone;
    private final Map<String, RetentionDecision> bySet = new LinkedHashMap<>();

    private Retention(RetentionPolicy policy, Instant now, ZoneId zone) {
        this.policy = policy;
        this.now = now;
        this.zone = zone;
    }

    /** All copies of one image. */
    private record Moment(String imageId, List<ShelvedCopy> copies) {
        Instant madeAt() {
            return copies.get(0).madeAt();
        }

        boolean is(State state) {
            return copies.stream().anyMatch(copy -> copy.state() == state);
        }

        boolean sound() {
            return is(State.PROVEN) || is(State.UNPROVEN);
        }
    }

    /**
     * @param images of one disk, in any order; those written down from paper are none
     * @return one decision for each, in the order given
     */
    public static List<RetentionDecision> decide(List<ShelvedCopy> images, RetentionPolicy policy, Instant now, ZoneId zone) {
        Retention retention = new Retention(policy, now, zone);
        Map<String, List<ShelvedCopy>> kinds = images.stream()
            .collect(Collectors.groupingBy(ShelvedCopy::without, LinkedHashMap::new, Collectors.toList()));
        kinds.forEach((without, ofOneKind) -> {
            Map<String, List<ShelvedCopy>> sets = ofOneKind.stream()
                .collect(Collectors.groupingBy(ShelvedCopy::imageId, LinkedHashMap::new, Collectors.toList()));
            retention.all(without, sets.entrySet().stream().map(set -> new Moment(set.getKey(), set.getValue()))
                .sorted(Comparator.comparing(Moment::madeAt).thenComparing(Moment::imageId).reversed()).toList());
        });
        return images.stream().map(image -> {
            RetentionDecision decision = retention.bySet.get(image.imageId());
            return new RetentionDecision(image.id(), decision.rule(), decision.why());
        }).toList();
    }

    private void all(String without, List<Moment> newestFirst) {
        String ofDisk = without.isEmpty() ? "of its disk" : "of its disk that is " + without;
        newestFirst.forEach(this::heldOrInUse);
        List<Moment> proven = newestFirst.stream().filter(moment -> moment.is(State.PROVEN)).toList();
        for (int i = 0; i < Math.min(policy.leastProven(), proven.size()); i++) {
            keep(proven.get(i), Rule.NEWEST_PROVEN, i == 0 ? "the newest proven image " + ofDisk + ", which never goes"
                : "one of the newest " + policy.leastProven() + " proven, number " + (i + 1));
        }
        if (proven.isEmpty()) {
            newestFirst.forEach(moment -> keep(moment, Rule.NOTHING_PROVEN, "no image " + ofDisk + " is proven, so none goes; check one"));
        }
        List<Moment> young = newestFirst.stream().filter(moment -> moment.sound() && !tooOld(moment)).toList();
        Keep keep = policy.keep();
        for (int i = 0; i < Math.min(keep.last(), young.size()); i++) {
            keep(young.get(i), Rule.LAST, "number " + (i + 1) + " of the last " + keep.last());
        }
        periods(young, Rule.DAILY, keep.daily(), "day", day -> day);
        periods(young, Rule.WEEKLY, keep.weekly(), "week", day -> day.minusDays(day.getDayOfWeek().getValue() - 1L));
        periods(young, Rule.MONTHLY, keep.monthly(), "month", day -> day.withDayOfMonth(1));
        periods(young, Rule.YEARLY, keep.yearly(), "year", day -> day.withDayOfYear(1));
        newestFirst.forEach(this::rest);
    }

    private void heldOrInUse(Moment moment) {
        for (ShelvedCopy copy : moment.copies) {
            copy.holds().stream().filter(hold -> hold.stands(now)).findFirst().ifPresent(hold -> keep(moment, Rule.HELD, held(hold)));
        }
        moment.copies.stream().flatMap(copy -> copy.inUse().stream()).findFirst()
            .ifPresent(use -> keep(moment, Rule.IN_USE, "in use: " + use));
    }

    private String held(Hold hold) {
        return "held" + hold.until().map(until -> " until " + Moments.fullDay(until, zone)).orElse("") + ": " + hold.reason();
    }

    private void periods(List<Moment> newestFirst, Rule rule, int count, String word, Function<LocalDate, LocalDate> start) {
        Map<LocalDate, List<Moment>> periods = new LinkedHashMap<>();
        for (Moment moment : newestFirst) {
            LocalDate period = start.apply(moment.madeAt().atZone(zone).toLocalDate());
            if (periods.size() == count && !periods.containsKey(period)) {
                break; // the others are of older periods
            }
            periods.computeIfAbsent(period, none -> new ArrayList<>()).add(moment);
        }
        int number = 0;
        for (Map.Entry<LocalDate, List<Moment>> period : periods.entrySet()) {
            number++;
            Moment standing = period.getValue().stream().filter(moment -> moment.is(State.PROVEN)).findFirst()
                .orElse(period.getValue().get(0));
            keep(standing, rule,
                (standing.is(State.PROVEN) ? "the newest proven of " : "the newest of ") + name(rule, period.getKey())
                    + (standing.is(State.PROVEN) ? "" : ", where none is proven yet")
                    + "; " + word + " " + number + " of " + count);
        }
    }

    private static String name(Rule rule, LocalDate start) {
        return switch (rule) {
            case DAILY -> Moments.fullDay(start);
            case WEEKLY -> "week " + start.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR) + " of " + start.get(IsoFields.WEEK_BASED_YEAR);
            case MONTHLY -> DateTimeFormatter.ofPattern("MMMM yyyy", Locale.ENGLISH).format(start);
            default -> "" + start.getYear();
        };
    }

    private void rest(Moment moment) {
        if (bySet.containsKey(moment.imageId)) {
            return;
        }
        long days = Duration.between(moment.madeAt(), now).toDays();
        if (policy.keep().equals(Keep.ALL) && !tooOld(moment)) {
            keep(moment, Rule.EVERY,
                "every image is kept" + (policy.maximumDays() > 0 ? " until it is older than " + policy.maximumDays() + " days" : ""));
        }
        if (days < policy.minimumDays()) {
            keep(moment, Rule.YOUNG,
                days + (days == 1 ? " day" : " days") + " old, and nothing younger than " + policy.minimumDays() + " days goes");
        }
        if (tooOld(moment)) {
            decide(moment, Rule.TOO_OLD, "Released: " + days + " days old, and older than " + policy.maximumDays()
                + " days only what is held, used or the newest proven stays.");
        }
        decide(moment, Rule.NOT_NEEDED, "Released: no rule keeps it; " + (moment.sound()
            ? "newer images stand for its day, week, month and year as far as they are kept." : "it is damaged and stands for nothing."));
    }

    private boolean tooOld(Moment moment) {
        return policy.maximumDays() > 0 && Duration.between(moment.madeAt(), now).toDays() > policy.maximumDays();
    }

    private void keep(Moment moment, Rule rule, String why) {
        decide(moment, rule, "Kept: " + why + ".");
    }

    private void decide(Moment moment, Rule rule, String why) {
        bySet.putIfAbsent(moment.imageId, new RetentionDecision(moment.imageId, rule, why));
    }
}
