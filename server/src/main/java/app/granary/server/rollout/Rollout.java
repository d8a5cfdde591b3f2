package app.granary.server.rollout;

import app.granary.server.column.JsonColumn;
import com.fasterxml.jackson.core.type.TypeReference;
import jakarta.persistence.Convert;
import jakarta.persistence.Converter;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.UUID;

/** One image onto many alike computers. */
@Entity
class Rollout {
    @Id
    private UUID id;
    private String name;
    private UUID imageId;
    private String imageName;
    @Convert(converter = Members.class)
    private List<Member> targets;
    private Instant begunAt;
    private String begunBy;
    private Instant endedAt;
    private String endedBy;
    @Version
    private long version;

    protected Rollout() {
    }

    /** One of its computers, and the identity of its disk. */
    record Member(String computer, String targetId) {
    }

    /** In the order they were chosen in. */
    @Converter
    static class Members extends JsonColumn<List<Member>> {
        Members() {
            super(new TypeReference<>() {});
        }
    }

    Rollout(String name, UUID imageId, String imageName, List<Member> members, Instant at, String by) {
        this.id = UUID.randomUUID();
        this.name = name;
        this.imageId = imageId;
        this.imageName = imageName;
        this.targets = List.copyOf(members);
        this.begunAt = at;
        this.begunBy = by;
        this.endedBy = "";
    }

    void end(Instant at, String by) {
        endedAt = at;
        endedBy = by;
    }

    void renamed(String before, String after) {
        targets = targets.stream().map(each -> new Member(each.computer.equalsIgnoreCase(before) ? after : each.computer, each.targetId))
            .toList();
    }

    List<Member> members() {
        return targets;
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
