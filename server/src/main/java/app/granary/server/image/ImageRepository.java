package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ImageRepository extends JpaRepository<Image, UUID> {
    List<Image> findAllByOrderByMadeAtDesc();

    @Query("""
        select i.diskId as diskId, i.madeAt as madeAt, c.ok as ok from Image i
        left join ImageCheck c on c.imageId = i.id and c.checkedAt = (select max(k.checkedAt) from ImageCheck k where k.imageId = i.id)
        where i.origin <> 'PAPER' and i.madeAt = (select max(j.madeAt) from Image j where j.diskId = i.diskId and j.origin <> 'PAPER')""")
    List<NewestImage> newest();

    List<Image> findByDiskIdAndCodecOrderByMadeAtDesc(String diskId, String codec);

    /** Case is not counted: some file systems do not tell such names apart. */
    boolean existsByDestinationIdAndNameIgnoreCase(String destinationId, String name);

    boolean existsByDestinationIdAndLocationAndNameIgnoreCase(String destinationId, String location, String name);

    List<Image> findByDiskIdOrderByMadeAtDesc(String diskId);

    List<Image> findBySetId(UUID setId);
}
