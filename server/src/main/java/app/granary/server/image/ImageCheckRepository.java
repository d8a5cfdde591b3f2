package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ImageCheckRepository extends JpaRepository<ImageCheck, UUID> {
    List<ImageCheck> findByCopyIdOrderByCheckedAtDesc(UUID copyId);

    @Query("select new app.granary.server.image.CheckOfCopy(c.copyId, c.level, c.ok, c.checkedAt, c.checkedBy, c.seconds) from "
        + "ImageCheck c")
    List<CheckOfCopy> evidence();

    @Query("select new app.granary.server.image.CheckOfCopy(c.copyId, c.level, c.ok, c.checkedAt, c.checkedBy, c.seconds) from "
        + "ImageCheck c where c.copyId = :copyId")
    List<CheckOfCopy> evidenceOf(UUID copyId);
}
