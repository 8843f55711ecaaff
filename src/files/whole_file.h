#pragma once
#include "core/base/fault.h"
#include <string>
#include <string_view>
#include <vector>

namespace burin {

/// Writes a file whole or not at all, for everything of Burin's that writes one: into a new file
/// beside it, flushed to the disk, put in its place, the folder flushed. Refused, with what was
/// there as it was: a full disk and every other failure on the way; a path that is one of `inputs`
/// (what the bytes were made from, by whatever name); a job of Burin's; a folder, device, pipe or
/// link to nothing. A link to a file is followed. `/dev/stdout` and `-` are streamed to.
Outcome<bool> writeWholeFile(const std::string& path, std::string_view bytes,
                             const std::vector<std::string>& inputs = {});

/// Whether writing there goes to standard output.
bool isStandardOutput(const std::string& path);

/// Flushes a file made by others beside its place, and puts it there, never over what is there
/// already; the folder is flushed too. 0, or an errno.
int putNewFile(const std::string& beside, const std::string& path);

/// Flushes the folder a file stands in, so that its name is on the disk too. 0, or an errno.
int syncFolderOf(const std::string& path);

/// What an errno means to people: "the disk is full".
std::string whyNot(int error);

} // namespace burin
