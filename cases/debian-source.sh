#!/usr/bin/env bash
# debian-source.sh PACKAGE VERSION FOLDER: fetches the upstream archive of a Debian source package into FOLDER.
set -u
package=$1 version=$2 folder=$3
mkdir -p "$folder/lists/partial"
sed 's/^Types: deb$/Types: deb-src/' /etc/apt/sources.list.d/debian.sources >"$folder/debian.sources"
options=(-o Dir::Etc::SourceList=/dev/null -o Dir::Etc::SourceParts="$folder" -o Dir::State::Lists="$folder/lists")
apt-get -q "${options[@]}" update >"$folder/apt.log" 2>&1
# the packaging itself may be gone from the mirror after a security update: the upstream archive is all that is needed
(cd "$folder" && apt-get -q "${options[@]}" source --download-only "$package" >>apt.log 2>&1)
ls "$folder/${package}_$version.orig.tar."* >/dev/null 2>&1 || { tail "$folder/apt.log" >&2; exit 1; }
