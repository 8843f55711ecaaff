#pragma once
#include <QByteArray>
#include <QString>
#include <memory>
#include <poppler-qt6.h>
#include <string>

namespace burin {

/// A PDF read back.
inline std::unique_ptr<Poppler::Document> readPdf(const std::string& bytes) {
    auto out = Poppler::Document::loadFromData(QByteArray::fromStdString(bytes));
    if (!out)
        qFatal("no PDF");
    return out;
}
/// The words on its pages, line by line.
inline QString textOf(const Poppler::Document& pdf) {
    QString out;
    for (int i = 0; i < pdf.numPages(); ++i)
        out += std::unique_ptr<Poppler::Page>(pdf.page(i))->text({});
    return out;
}

} // namespace burin
