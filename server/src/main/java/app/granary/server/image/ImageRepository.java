package app.granary.server.image;

import java.util.List;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

interface ImageRepository extends JpaRepository<Image, UUID> {
    List<Image> findByShelfOrderByMadeAtDesc(Image.Shelf shelf);

    List<Image> findByShelfNotOrderByMadeAtDesc(Image.Shelf shelf);

    @Query("""
        select i.diskId as diskId, i.madeAt as madeAt, c.ok as ok from Image i
        left join ImageCheck c on c.imageId = i.id and c.checkedAt = (select max(k.checkedAt) from ImageCheck k where k.imageId = i.id)
        where i.origin <> 'PAPER' and i.shelf = 'KEPT' and i.madeAt = (select max(j.madeAt) from Image j where j.diskId = i.diskId and j.origin <> 'PAPER' and j.shelf = 'KEPT')""")
    List<NewestImage> newest();

    List<Image> findByDiskIdAndCodecOrderByMadeAtDesc(String diskId, String codec);

    /** Case is not counted: some file systems do not tell such names apart. */
    @Query("select count(i) > 0 from Image i where i.destinationId = :destinationId and lower(i.name) = lower(:name) and i.shelf <> 'GONE'")
    boolean isTaken(String destinationId, String name);

    @Query("select count(i) > 0 from Image i where i.destinationId = :destinationId and i.location = :location and lower(i.name) = lower(:name) and i.shelf <> 'GONE'")
    boolean isTaken(String destinationId, String location, String name);

    List<Image> findByDiskIdAndShelfOrderByMadeAtDesc(String diskId, Image.Shelf shelf);

    List<Image> findBySetIdAndShelf(UUID setId, Image.Shelf shelf);
}
