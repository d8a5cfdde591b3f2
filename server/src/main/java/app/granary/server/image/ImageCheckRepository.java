package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ImageCheckRepository extends JpaRepository<ImageCheck, UUID> {
    List<ImageCheck> findByImageIdOrderByCheckedAtDesc(UUID imageId);

    @Query("select new app.granary.server.image.CheckOfImage(c.imageId, c.level, c.ok, c.checkedAt, c.checkedBy, c.seconds) from ImageCheck c")
    List<CheckOfImage> evidence();

    @Query("select new app.granary.server.image.CheckOfImage(c.imageId, c.level, c.ok, c.checkedAt, c.checkedBy, c.seconds) from ImageCheck c where c.imageId = :imageId")
    List<CheckOfImage> evidenceOf(UUID imageId);
}
