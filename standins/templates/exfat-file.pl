# exfat-file.pl VOLUME FILE: puts a file into the root of a fresh exFAT, since no tool of the system does so without mounting: an entry set
# (exFAT file system specification 1.00, sections 7.4, 7.6, 7.7) with contiguous clusters behind those in use, and their bits in the bitmap.
use strict;
my ($volume, $file) = @ARGV;
open my $v, '+<', $volume or die; binmode $v;
open my $f, '<', $file or die; binmode $f;
my $content = do { local $/; <$f> };
sub at { my ($where, $length) = @_; seek $v, $where, 0; read $v, my $out, $length; return $out }
sub put { my ($where, $bytes) = @_; seek $v, $where, 0; print $v $bytes }
my $boot = at(0, 512);
my $sector = 1 << unpack('C', substr $boot, 108, 1);
my $cluster = $sector << unpack('C', substr $boot, 109, 1);
my ($heap, $clusters, $root) = unpack 'V3', substr $boot, 88, 12;
$heap *= $sector;
my $directory = $heap + ($root - 2) * $cluster;
my ($end, $bitmap, $bytes) = (0, 0, 0);
while (ord at($directory + $end, 1)) {
  $end += 32;
}
my $entry = at($directory, $end);
for (my $i = 0; $i < $end; $i += 32) { ($bitmap, $bytes) = (unpack('V', substr $entry, $i + 20, 4), unpack('Q<', substr $entry, $i + 24, 8)) if ord(substr $entry, $i, 1) == 0x81 }
my $map = at($heap + ($bitmap - 2) * $cluster, $bytes);
my $first = 0;
for my $bit (0 .. $clusters - 1) { $first = $bit + 1 if vec($map, $bit, 1) }
my $count = int((length($content) + $cluster - 1) / $cluster);
die 'it does not fit' if $first + $count > $clusters;
vec($map, $_, 1) = 1 for $first .. $first + $count - 1;
put($heap + ($bitmap - 2) * $cluster, $map);
put($heap + $first * $cluster, $content);
my $name = sprintf 'SHEET%d', $end / 96;
my $sum = sub { my ($bytes, @skip) = @_; my $s = 0; for my $i (0 .. length($bytes) - 1) { next if grep { $_ == $i } @skip; $s = ((($s << 15) | ($s >> 1)) & 0xFFFF) + ord(substr $bytes, $i, 1) & 0xFFFF } $s };
my $wide = join '', map { $_ . "\0" } split //, $name;
my $stamp = (46 << 25) | (1 << 21) | (1 << 16);
my $set = pack('C C v v v V V V x12', 0x85, 2, 0, 0x20, 0, $stamp, $stamp, $stamp)
  . pack('C C C C v v Q< V V Q<', 0xC0, 3, 0, length $name, $sum->($wide), 0, length $content, 0, $first + 2, length $content)
  . pack('C C a30', 0xC1, 0, $wide);
substr $set, 2, 2, pack('v', $sum->($set, 2, 3));
put($directory + $end, $set);
