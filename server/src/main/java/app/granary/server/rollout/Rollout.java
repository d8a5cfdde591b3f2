package app.granary.server.rollout;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import java.util.stream.Collectors;

/** One image onto many alike computers. */
@Entity
class Rollout {
    @Id
    private UUID id;
    private String name;
    private UUID imageId;
    private String imageName;
    /** A line a computer: its name, a tab, the identity of its disk. */
    private String targets;
    private Instant begunAt;
    private String begunBy;
    private Instant endedAt;
    private String endedBy;
    @Version
    private long version;

    protected Rollout() {
    }

    /** One of its computers. */
    record Member(String computer, String targetId) {
    }

    Rollout(String name, UUID imageId, String imageName, List<Member> members, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.name = name;
        this.imageId = imageId;
        this.imageName = imageName;
        this.targets = members.stream().map(each -> each.computer + "\t" + each.targetId).collect(Collectors.joining("\n"));
        this.begunAt = at;
        this.begunBy = by;
        this.endedBy = "";
    }

    void end(Instant at, String by) {
        endedAt = at;
        endedBy = by;
    }

    void renamed(String before, String after) {
        targets = members().stream().map(each -> (each.computer.equalsIgnoreCase(before) ? after : each.computer) + "\t" + each.targetId).collect(Collectors.joining("\n"));
    }

    List<Member> members() {
        return Arrays.stream(targets.split("\n")).map(line -> line.split("\t", 2)).map(field -> new Member(field[0], field[1])).toList();
    }

    UUID id() {
        return id;
    }

    String name() {
        return name;
    }

    UUID imageId() {
        return imageId;
    }

    String imageName() {
        return imageName;
    }

    Instant begunAt() {
        return begunAt;
    }

    String begunBy() {
        return begunBy;
    }

    Instant endedAt() {
        return endedAt;
    }
}
