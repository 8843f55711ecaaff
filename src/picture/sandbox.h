#pragma once

namespace burin {

/// What this process may still do. Both: read and write what is open already, take memory (3 GiB)
/// and time (`seconds`, of the processor and by the clock; then a signal ends it). Nothing is
/// connected to, started, or opened.
enum class Sandbox {
    Closed,
    /// As Closed; but files under the folders of fonts may be opened for reading, where the kernel
    /// can hold it to those folders (Landlock). Where it cannot, it is Closed.
    Fonts
};

enum class Locked { Closed, Fonts, Not };
/// Locks this process in, for good. `Not`: the kernel refused; nothing from others may be read
/// then.
Locked lockIn(Sandbox sandbox, int seconds);

} // namespace burin
