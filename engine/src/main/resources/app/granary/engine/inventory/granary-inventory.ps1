# Prints what this computer and its disks are, as Granary reads it (inventory.schema.json). Only reads; needs nothing installed.
# In a PowerShell opened as administrator:   .\granary-inventory.ps1 > NAME.json
$ErrorActionPreference = 'SilentlyContinue'
$system = Get-CimInstance Win32_ComputerSystem
$windows = Get-CimInstance Win32_OperatingSystem
$firmware = 'bios'
$secureBoot = $null
if ($env:firmware_type -eq 'UEFI' -or (Test-Path 'HKLM:\SYSTEM\CurrentControlSet\Control\SecureBoot')) {
  $firmware = 'uefi'
  try { $secureBoot = [bool](Confirm-SecureBootUEFI -ErrorAction Stop) } catch { $secureBoot = $null }
}
$disks = @()
foreach ($disk in (Get-Disk | Sort-Object Number)) {
  if ($disk.Size -le 0) { continue }
  $partitions = @()
  foreach ($partition in (Get-Partition -DiskNumber $disk.Number | Sort-Object PartitionNumber)) {
    $volume = $partition | Get-Volume
    $used = $null
    if ($volume -and $volume.Size -gt 0) { $used = [long]($volume.Size - $volume.SizeRemaining) }
    $type = ''
    if ($partition.GptType) { $type = $partition.GptType.Trim('{}').ToUpperInvariant() }
    elseif ($partition.MbrType) { $type = '{0:X2}' -f $partition.MbrType }
    $fileSystem = ''
    if ($volume -and $volume.FileSystem) { $fileSystem = $volume.FileSystem.ToLowerInvariant().Replace('fat32', 'vfat') }
    $name = ''
    if ($volume -and $volume.FileSystemLabel) { $name = $volume.FileSystemLabel }
    $partitions += [ordered]@{
      number = [int]$partition.PartitionNumber; startBytes = [long]$partition.Offset; sizeBytes = [long]$partition.Size
      type = $type; name = $name; fileSystem = $fileSystem; usedBytes = $used
    }
  }
  $scheme = switch ("$($disk.PartitionStyle)") { 'GPT' { 'gpt' } 'MBR' { 'mbr' } default { 'none' } }
  $serial = ''
  if ($disk.SerialNumber) { $serial = $disk.SerialNumber.Trim() }
  $disks += [ordered]@{
    name = "disk $($disk.Number)"; model = "$($disk.FriendlyName)".Trim(); serial = $serial; sizeBytes = [long]$disk.Size
    sectorBytes = [int]$disk.LogicalSectorSize; bus = "$($disk.BusType)".ToLowerInvariant(); scheme = $scheme; partitions = @($partitions)
  }
}
$report = [ordered]@{
  format = 'granary-inventory'; version = 1
  computers = @([ordered]@{
    name = $env:COMPUTERNAME; maker = "$($system.Manufacturer)".Trim(); model = "$($system.Model)".Trim(); firmware = $firmware; secureBoot = $secureBoot
    operatingSystem = "$($windows.Caption), $($windows.BuildNumber)"; disks = @($disks)
  })
}
$report | ConvertTo-Json -Depth 8
